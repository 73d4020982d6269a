import { ConfirmSecondFactor, WithPassword, type RecoveryCodes, type SecondFactorSecret, type SecondFactorState } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { enterSession, useSecondFactor } from '../../api/queries.ts';
import { perform, performOrThrow } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { CopyLine } from '../../ui/CopyLine.tsx';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { ErrorNote, Inline, Loading, Panel, PanelBody, PanelHead } from '../../ui/layout.tsx';
import { Note } from '../../ui/text.tsx';
import { QrCode } from './QrCode.tsx';

const Codes = styled.ol`
  display: grid;
  grid-template-columns: repeat(2, max-content);
  gap: 4px 24px;
  margin: 8px 0 12px;
  font-family: ui-monospace, monospace;
  font-size: 13px;
`;

type Step =
  | { readonly kind: 'rest' }
  | { readonly kind: 'setting-up'; readonly secret: SecondFactorSecret }
  | { readonly kind: 'codes'; readonly codes: readonly string[] }
  | { readonly kind: 'renewing' }
  | { readonly kind: 'turning-off' };

const REST: Step = { kind: 'rest' };

/** The second factor: a code of an app besides the password. */
export function SecondFactorPanel() {
  const { data: state, error, mutate } = useSecondFactor();
  const [step, setStep] = useState<Step>(REST);
  const done = (next: Step): void => {
    setStep(next);
    void mutate();
  };
  return (
    <Panel aria-label="Second factor">
      <PanelHead>
        <h2>Second factor</h2>
      </PanelHead>
      <PanelBody>
        {error ? (
          <ErrorNote error={error} />
        ) : state === undefined ? (
          <Loading rows={2} />
        ) : (
          <StepView state={state} step={step} onStep={done} />
        )}
      </PanelBody>
    </Panel>
  );
}

interface StepProps {
  readonly state: SecondFactorState;
  readonly step: Step;
  readonly onStep: (next: Step) => void;
}

function StepView({ state, step, onStep }: StepProps) {
  switch (step.kind) {
    case 'rest':
      return <AtRest state={state} onStep={onStep} />;
    case 'setting-up':
      return <SettingUp secret={step.secret} onStep={onStep} />;
    case 'codes':
      return <ShownCodes codes={step.codes} onClose={() => onStep(REST)} />;
    case 'renewing':
      return <WithPasswordForm isOff={false} onStep={onStep} />;
    case 'turning-off':
      return <WithPasswordForm isOff onStep={onStep} />;
  }
}

function AtRest({ state: { isOn, recoveryCodes, isRequired }, onStep }: Omit<StepProps, 'step'>) {
  const begin = async (): Promise<void> => {
    const begun = await perform({ send: () => call<SecondFactorSecret>('POST', '/account/second-factor') });
    if (begun.isDone) onStep({ kind: 'setting-up', secret: begun.answer });
  };
  if (!isOn)
    return (
      <>
        <Note>
          {isRequired ? 'Your agency asks owners and leads for a second factor. ' : ''}With it, signing in also takes six digits from an
          authenticator app on your phone, so a stolen password is not enough.
        </Note>
        <Button kind={isRequired ? 'primary' : 'plain'} onPress={() => void begin()}>
          Set up…
        </Button>
      </>
    );
  return (
    <>
      <Note>
        On. {recoveryCodes} of 10 recovery codes left{recoveryCodes < 3 ? ': get new ones soon' : ''}.
      </Note>
      <Inline $gap={8}>
        <Button onPress={() => onStep({ kind: 'renewing' })}>New recovery codes…</Button>
        <Button kind="quiet" onPress={() => onStep({ kind: 'turning-off' })}>
          Turn off…
        </Button>
      </Inline>
    </>
  );
}

function SettingUp({ secret, onStep }: { readonly secret: SecondFactorSecret; readonly onStep: (next: Step) => void }) {
  const form = useInputForm({
    rules: ConfirmSecondFactor,
    typed: { code: '' },
    input: (typed) => typed,
    send: async (input) => {
      const { codes } = await performOrThrow({
        send: () => call<RecoveryCodes>('POST', '/account/second-factor/confirm', input),
        said: 'Second factor turned on.',
      });
      // Where the agency requires it, nothing else was open until now.
      await enterSession();
      onStep({ kind: 'codes', codes });
    },
  });
  return (
    <>
      <Note>Scan this with your authenticator app, or copy the key into it. Then write the six digits it shows.</Note>
      <QrCode text={secret.uri} label="QR code for your authenticator app" />
      <CopyLine label="Key for your authenticator app" text={secret.secret} />
      <SmallForm form={form} action="Turn on" onCancel={() => onStep(REST)}>
        <Field {...form.bind('code')} label="Six digits from the app" autoComplete="one-time-code" />
      </SmallForm>
    </>
  );
}

function ShownCodes({ codes, onClose }: { readonly codes: readonly string[]; readonly onClose: () => void }) {
  return (
    <>
      <Note>
        Recovery codes, shown only now. Each lets you sign in once without your phone. Keep them where you keep other important papers.
      </Note>
      <Codes aria-label="Recovery codes">
        {codes.map((code) => (
          <li key={code}>{code}</li>
        ))}
      </Codes>
      <CopyLine label="All recovery codes" text={codes.join(' ')} />
      <Button kind="primary" onPress={onClose}>
        I have kept them
      </Button>
    </>
  );
}

/** Turning it off, or other recovery codes: only by the password. */
function WithPasswordForm({ isOff, onStep }: { readonly isOff: boolean; readonly onStep: (next: Step) => void }) {
  const form = useInputForm({
    rules: WithPassword,
    typed: { password: '' },
    input: (typed) => typed,
    send: async (input) => {
      if (isOff) {
        await performOrThrow({ send: () => call('POST', '/account/second-factor/off', input), said: 'Second factor turned off.' });
        return onStep(REST);
      }
      const send = (): Promise<RecoveryCodes> => call<RecoveryCodes>('POST', '/account/second-factor/recovery-codes', input);
      const { codes } = await performOrThrow({ send, said: 'The old recovery codes no longer work.' });
      onStep({ kind: 'codes', codes });
    },
  });
  return (
    <SmallForm form={form} action={isOff ? 'Turn off' : 'New recovery codes'} onCancel={() => onStep(REST)}>
      <Field {...form.bind('password')} label="Your password" type="password" autoComplete="current-password" />
    </SmallForm>
  );
}
