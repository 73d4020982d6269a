import { troubleWords } from '../../api/client.ts';
import { ChangeSeries, type SeriesView } from '@crew/contract';
import { CARRY, type IsoDay } from '@crew/core';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useCrew } from '../../api/queries.ts';
import { Choose, Field } from '../../ui/Field.tsx';
import { Panel, PanelHead } from '../../ui/layout.tsx';
import { Facts } from '../../ui/Sheet.tsx';
import { FormButton, SmallForm } from '../../ui/form/SmallForm.tsx';
import { minutesIfTyped, wholeTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { notify } from '../../ui/toasts.tsx';
import { count, hours, hourWords } from '../../words/format.ts';
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
  readonly today: IsoDay;
  readonly steps?: SeriesSteps;
}

/** Who does it, what is agreed, how far ahead each is made: it holds for what is not begun. */
export function SeriesTerms({ series, steps }: TermsProps) {
  return (
    <Panel>
      <PanelHead>
        <h2>Terms</h2>
      </PanelHead>
      <Lines>
        <dt>Template</dt>
        <dd>
          <Link href={`/templates/${series.template.id}`}>{series.template.name}</Link>
        </dd>
        <dt>Created</dt>
        <dd>{steps === undefined ? aheadWords(series) : <AheadEditor series={series} steps={steps} />}</dd>
        {series.kind === 'line' && series.retainerMinutes === null ? null : (
          <>
            <dt>Agreed hours</dt>
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
  series.retainerMinutes === null ? 'no hours' : `${hourWords(series.retainerMinutes)}; unused hours ${CARRY_WORDS[series.carry]}`;

const NOBODY = 'nobody';

function RoleLine({ role, steps }: { readonly role: SeriesView['roles'][number]; readonly steps?: SeriesSteps }) {
  const { data: crew } = useCrew();
  const holders = crew?.people.filter((person) => person.roleIds.includes(role.roleId));
  const choose = (id: string): void => {
    const next = { roles: [{ roleId: role.roleId, personId: id === NOBODY ? null : id }] };
    const undo = { roles: [{ roleId: role.roleId, personId: role.person?.id ?? null }] };
    const name = holders?.find((person) => person.id === id)?.name ?? 'Nobody';
    void steps
      ?.change(next, `${name} is ${role.role} of upcoming ones.`, undo)
      .catch((error: unknown) => notify(troubleWords(error), { tone: 'trouble' }));
  };
  return (
    <>
      <dt>{role.role}</dt>
      <dd>
        {steps === undefined ? (
          (role.person?.name ?? 'unassigned')
        ) : (
          <Choose
            label={role.role}
            isLabelHidden
            isTight
            choices={holders && [...holders.map(({ id, name }) => ({ id, name })), { id: NOBODY, name: 'Unassigned' }]}
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
  return (
    <FormButton label="Days ahead" width={230} button={<ValueButton>{aheadWords(series)}</ValueButton>}>
      {(close) => <AheadForm series={series} steps={steps} onDone={close} />}
    </FormButton>
  );
}

function AheadForm({ series, steps, onDone }: EditorProps & { readonly onDone: () => void }) {
  const form = useInputForm({
    rules: ChangeSeries,
    typed: { aheadDays: String(series.aheadDays) },
    input: ({ aheadDays }) => ({ version: series.version, aheadDays: wholeTyped(aheadDays) }),
    send: async ({ aheadDays = series.aheadDays }) => {
      await steps.change({ aheadDays }, `Each is now created ${count(aheadDays, 'day')} before it starts.`, {
        aheadDays: series.aheadDays,
      });
      onDone();
    },
  });
  return (
    <SmallForm form={form} action="Save">
      <Field {...form.bind('aheadDays')} label="Days before it starts" inputMode="numeric" autoFocus />
    </SmallForm>
  );
}

function HoursEditor({ series, steps }: EditorProps) {
  return (
    <FormButton label="Agreed hours" width={270} button={<ValueButton>{agreedWords(series)}</ValueButton>}>
      {(close) => <HoursForm series={series} steps={steps} onDone={close} />}
    </FormButton>
  );
}

function HoursForm({ series, steps, onDone }: EditorProps & { readonly onDone: () => void }) {
  const before = { retainerMinutes: series.retainerMinutes, carry: series.carry };
  const form = useInputForm({
    rules: ChangeSeries,
    typed: { retainerMinutes: series.retainerMinutes === null ? '' : hours(series.retainerMinutes), carry: series.carry },
    input: ({ retainerMinutes, carry }) => ({ version: series.version, retainerMinutes: minutesIfTyped(retainerMinutes), carry }),
    send: async ({ retainerMinutes = null, carry = series.carry }) => {
      await steps.change({ retainerMinutes, carry }, 'Applies to periods that have not started.', before);
      onDone();
    },
  });
  return (
    <SmallForm form={form} action="Save" gap={8}>
      <Field {...form.bind('retainerMinutes')} label="Hours for each period" isTight inputMode="decimal" placeholder="none" autoFocus />
      <Choose {...form.bind('carry')} label="Unused hours" isTight choices={CARRY.map((id) => ({ id, name: CARRY_WORDS[id] }))} />
    </SmallForm>
  );
}
