import { Trouble } from '../../ui/text.tsx';
import { troubleWords } from '../../api/client.ts';
import type { SeriesView } from '@crew/contract';
import type { Carry } from '@crew/core';
import { useState } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Choose, Field } from '../../ui/Field.tsx';
import { Panel, PanelHead } from '../../ui/layout.tsx';
import { Facts } from '../../ui/Sheet.tsx';
import { FormButton, SmallForm } from '../../ui/SmallForm.tsx';
import { notify } from '../../ui/toasts.tsx';
import { count, hours, hourWords, parseHours } from '../../words/format.ts';
import { ValueButton } from '../task/editors.tsx';
import { CARRY_WORDS } from './series-words.ts';
import type { SeriesSteps } from './use-series-steps.ts';

const Lines = styled(Facts)`
  grid-template-columns: 118px minmax(0, 1fr);
  margin: 0;
  padding: 11px 14px 13px;
`;

interface TermsProps {
  readonly series: SeriesView;
  readonly today: string;
  readonly steps?: SeriesSteps;
}

/** Who does it, what is agreed, how far ahead each is made: it holds for what is not begun. */
export function SeriesTerms({ series, steps }: TermsProps) {
  return (
    <Panel>
      <PanelHead>
        <h2 style={{ fontSize: 14 }}>What each is</h2>
      </PanelHead>
      <Lines>
        <dt>Template</dt>
        <dd>
          <Link href={`/templates/${series.template.id}`}>{series.template.name}</Link>
        </dd>
        <dt>Made ahead</dt>
        <dd>{steps === undefined ? aheadWords(series) : <AheadEditor series={series} steps={steps} />}</dd>
        {series.kind === 'line' && series.retainerMinutes === null ? null : (
          <>
            <dt>Agreed each</dt>
            <dd>{steps === undefined ? agreedWords(series) : <HoursEditor series={series} steps={steps} />}</dd>
          </>
        )}
        {series.roles.map((role) => (
          <RoleLine key={role.roleId} role={role} {...(steps === undefined ? {} : { steps })} />
        ))}
      </Lines>
    </Panel>
  );
}

const aheadWords = (series: SeriesView): string => `${count(series.aheadDays, 'day')} before it starts`;
const agreedWords = (series: SeriesView): string =>
  series.retainerMinutes === null ? 'no hours' : `${hourWords(series.retainerMinutes)}; hours left ${CARRY_WORDS[series.carry]}`;

const NOBODY = 'nobody';

function RoleLine({ role, steps }: { readonly role: SeriesView['roles'][number]; readonly steps?: SeriesSteps }) {
  const { data: crew } = useCrew();
  const holders = crew?.people.filter((person) => person.roleIds.includes(role.roleId));
  const choose = (id: string): void => {
    const next = { roles: [{ roleId: role.roleId, personId: id === NOBODY ? null : id }] };
    const undo = { roles: [{ roleId: role.roleId, personId: role.person?.id ?? null }] };
    const name = holders?.find((person) => person.id === id)?.name ?? 'Nobody';
    void steps
      ?.change(next, `${name} is ${role.role} of those to come.`, undo)
      .catch((error: unknown) => notify(troubleWords(error), { tone: 'trouble' }));
  };
  return (
    <>
      <dt>{role.role}</dt>
      <dd>
        {steps === undefined ? (
          (role.person?.name ?? 'nobody yet')
        ) : (
          <Choose
            label={role.role}
            isLabelHidden
            isTight
            choices={holders && [...holders.map(({ id, name }) => ({ id, name })), { id: NOBODY, name: 'Nobody yet' }]}
            value={role.person?.id ?? NOBODY}
            onChange={choose}
          />
        )}
      </dd>
    </>
  );
}

interface EditorProps {
  readonly series: SeriesView;
  readonly steps: SeriesSteps;
}

function AheadEditor({ series, steps }: EditorProps) {
  const [days, setDays] = useState(String(series.aheadDays));
  const isRight = /^\d{1,3}$/.test(days.trim()) && Number(days) <= 180;
  return (
    <FormButton label="How far ahead each is made" width={230} button={<ValueButton>{aheadWords(series)}</ValueButton>}>
      {(close) => (
        <SmallForm
          action="Save"
          isReady={isRight}
          onSubmit={() =>
            steps
              .change({ aheadDays: Number(days) }, `Each is made ${count(Number(days), 'day')} ahead.`, { aheadDays: series.aheadDays })
              .then(close)
          }
        >
          {(trouble) => (
            <Field
              label="Days before it starts"
              inputMode="numeric"
              value={days}
              onChange={setDays}
              error={isRight ? trouble : 'Write a whole number up to 180.'}
            />
          )}
        </SmallForm>
      )}
    </FormButton>
  );
}

function HoursEditor({ series, steps }: EditorProps) {
  const [typed, setTyped] = useState(series.retainerMinutes === null ? '' : hours(series.retainerMinutes));
  const [carry, setCarry] = useState<Carry>(series.carry);
  const minutes = typed.trim() === '' ? null : parseHours(typed);
  const isRight = typed.trim() === '' || minutes !== null;
  const before = { retainerMinutes: series.retainerMinutes, carry: series.carry };
  return (
    <FormButton label="Agreed hours" width={270} button={<ValueButton>{agreedWords(series)}</ValueButton>}>
      {(close) => (
        <SmallForm
          action="Save"
          isReady={isRight}
          onSubmit={() =>
            steps.change({ retainerMinutes: minutes, carry }, 'Agreed hours hold for periods that have not begun.', before).then(close)
          }
        >
          {(trouble) => (
            <div style={{ display: 'flex', flexDirection: 'column', gap: 8, marginBottom: 10 }}>
              <Field
                label="Hours for each period"
                isTight
                inputMode="decimal"
                value={typed}
                onChange={setTyped}
                {...(isRight ? {} : { error: 'Write hours as 8 or 7:30.' })}
              />
              <Choose
                label="Hours left"
                isTight
                choices={(Object.keys(CARRY_WORDS) as Carry[]).map((id) => ({ id, name: CARRY_WORDS[id] }))}
                value={carry}
                onChange={(id) => setCarry(id as Carry)}
              />
              <Trouble words={trouble} />
            </div>
          )}
        </SmallForm>
      )}
    </FormButton>
  );
}
