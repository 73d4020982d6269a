import type { IsoDay } from '@crew/core';
import { Trouble, Note, Toned, Earlier, Quiet } from '../../ui/text.tsx';
import { performOrThrow } from '../../session/perform.ts';
import { StartEngagement, type Made, type RoleNeed, type TriedEngagement } from '@crew/contract';
import styled from 'styled-components';
import { useNavigate } from 'react-router';
import { call } from '../../api/client.ts';
import { useClients, useTemplates } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Facts, Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { wholeTyped } from '../../ui/form/typed.ts';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { dayWords, hourWords } from '../../words/format.ts';
import { WhatIsTried } from './PaceSheet.tsx';
import { FullnessLines } from './FullnessLines.tsx';
import type { Trying } from './use-try.ts';
import { Unestimated } from '../../ui/Unestimated.tsx';

const ResultFacts = styled(Facts)`
  margin: 8px 0 0;
`;

const Caution = styled.p`
  margin-top: 7px;
  font-size: 12.5px;
  color: var(--amber);
`;

const USUAL_LIKELIHOOD = '50';

const Fields = styled.div`
  display: flex;
  flex-direction: column;
  gap: 8px;
  margin: 10px 0 12px;
`;

const FlushFields = styled(Fields)`
  margin: 0;
`;
const Answer = styled.div`
  padding: 9px 11px;
  border: 1px solid var(--petrol);
  border-radius: 6px;
  strong {
    font-weight: 650;
  }
`;

interface TrySheetProps {
  readonly trying: Trying;
  readonly today: IsoDay;
  /** Leaves it for another pace of what repeats. */
  readonly onPace: () => void;
  readonly onClose: () => void;
}

/** A new engagement over the real load: can we start then? Nothing is saved before it is kept as a proposal. */
export function TrySheet({ trying, today, onPace, onClose }: TrySheetProps) {
  const { data: templates } = useTemplates();
  const { asked, tried, problem, isWorking, change } = trying;
  // Who was found for that day comes with it: whoever is suggested for it may be somebody else.
  const takeEarliest = ({ start, roles }: TriedEngagement['earliest']): void =>
    change({ start, roles: [...asked.roles, ...roles.map(({ roleId, person }) => ({ roleId, personId: person.id }))] });
  return (
    <Sheet label="Try a new engagement" line="Nothing is saved" onClose={onClose}>
      <WhatIsTried value="try" onChange={onPace} />
      <SheetTitle>Can we start then?</SheetTitle>
      <Fields>
        <Choose
          label="Template"
          isTight
          placeholder="Choose what kind of work"
          choices={templates?.filter((template) => template.kind === 'engagement').map(({ id, name }) => ({ id, name }))}
          value={asked.templateId}
          onChange={(templateId) => change({ templateId, roles: [] })}
        />
        <DayField
          label="Start"
          isTight
          today={today}
          value={asked.start}
          onChange={(start) => (start === '' ? undefined : change({ start }))}
        />
      </Fields>
      <Trouble words={problem} />
      {asked.templateId === null ? (
        <Note>Choose a template: its work is shown over everybody’s days in the grid, with the earliest start that overloads nobody.</Note>
      ) : tried === undefined ? (
        problem === null ? (
          <Note>Comparing with the workload…</Note>
        ) : null
      ) : (
        <Earlier $isEarlier={isWorking} aria-live="polite">
          <Outcome tried={tried} today={today} onStart={takeEarliest} />
          <FullnessLines people={tried.people} today={today} />
          <Roles tried={tried} trying={trying} />
          <KeepAsProposal tried={tried} trying={trying} />
        </Earlier>
      )}
    </Sheet>
  );
}

function Outcome({
  tried,
  today,
  onStart,
}: {
  readonly tried: TriedEngagement;
  readonly today: IsoDay;
  readonly onStart: (earliest: TriedEngagement['earliest']) => void;
}) {
  const { overloads, earliest } = tried;
  return (
    <Answer>
      {overloads.length === 0 ? (
        <Toned as="strong" $tone="good">
          Yes: nobody is overloaded.
        </Toned>
      ) : (
        <Toned as="strong" $tone="bad">
          Not without overload:{' '}
          {overloads
            .map((over) => `${over.person.name.split(' ')[0]} ${hourWords(over.minutes)} over from ${dayWords(over.firstDay, today)}`)
            .join(', ')}
          .
        </Toned>
      )}
      <ResultFacts>
        <dt>Finished</dt>
        <dd>{dayWords(tried.finish, today)}</dd>
        <dt>Effort</dt>
        <dd>
          {tried.effortMinutes === 0 ? 'not given' : hourWords(tried.effortMinutes)}
          {tried.unmannedMinutes === 0 ? '' : `, ${hourWords(tried.unmannedMinutes)} of it unassigned`}
          <Unestimated {...tried.unestimated} />
        </dd>
        <dt>Earliest</dt>
        <dd>
          <EarliestWords tried={tried} today={today} onStart={onStart} />
        </dd>
      </ResultFacts>
      {earliest.alone.length === 0 ? null : (
        <Caution>
          Wherever it starts, the work itself is too much for{' '}
          {earliest.alone.map(({ person, minutes }) => `${person.name.split(' ')[0]} (${hourWords(minutes)})`).join(' and ')}: share it, or
          plan it longer.
        </Caution>
      )}
    </Answer>
  );
}

/** The earliest start that overloads nobody, or, where there is none, the one that asks least; with whoever would do it then. */
function EarliestWords({ tried, today, onStart }: Parameters<typeof Outcome>[0]) {
  const { earliest, start, roles } = tried;
  const others = earliest.roles.filter(({ roleId, person }) => roles.find((role) => role.roleId === roleId)?.chosen?.id !== person.id);
  if (earliest.start === start && others.length === 0)
    return <>{earliest.fits ? 'this start' : 'no start within a year suits everybody; this one overloads least'}</>;
  const first = ({ name }: { readonly name: string }): string => name.split(' ')[0] as string;
  return (
    <>
      {earliest.fits ? null : <>no start within a year suits everybody; least over on </>}
      <Button kind="text" onPress={() => onStart(earliest)}>
        {dayWords(earliest.start, today)}, finished {dayWords(earliest.finish, today)}
      </Button>
      {others.length === 0 ? null : (
        <Quiet as="small">
          with{' '}
          {others.map(({ roleId, person }) => `${first(person)} as ${roles.find((role) => role.roleId === roleId)?.role ?? ''}`).join(', ')}
        </Quiet>
      )}
      {earliest.fits ? null : (
        <Quiet as="small">
          too much then for {earliest.over.map(({ person, minutes }) => `${first(person)} (${hourWords(minutes)})`).join(' and ')}
        </Quiet>
      )}
    </>
  );
}

const NOBODY = 'nobody';

/** Who does it can be changed: then another start may be the earliest. */
function Roles({ tried, trying }: { readonly tried: TriedEngagement; readonly trying: Trying }) {
  // Only what somebody chose is kept: for the other roles the best is suggested anew for each start.
  const choose = ({ roleId }: RoleNeed, id: string): void =>
    trying.change({
      roles: [...trying.asked.roles.filter((other) => other.roleId !== roleId), { roleId, personId: id === NOBODY ? null : id }],
    });
  return (
    <SheetPart>
      <h3>Who would do it</h3>
      <FlushFields>
        {tried.roles.map((role) => (
          <Choose
            key={role.roleId}
            isTight
            label={`${role.role}, ${hourWords(role.minutes)}`}
            value={role.chosen?.id ?? NOBODY}
            onChange={(id) => choose(role, id)}
            choices={[
              ...role.suggestions.map((suggestion) => ({
                id: suggestion.person.id,
                name: suggestion.person.name,
                detail: suggestion.isFull
                  ? `would be ${hourWords(-suggestion.freeMinutes)} over`
                  : `${hourWords(suggestion.freeMinutes)} free afterwards`,
              })),
              { id: NOBODY, name: 'Unassigned' },
            ]}
          />
        ))}
      </FlushFields>
    </SheetPart>
  );
}

/** Kept as a proposal it counts by its likelihood from then on. */
function KeepAsProposal({ tried, trying }: { readonly tried: TriedEngagement; readonly trying: Trying }) {
  const { data: clients } = useClients();
  const navigate = useNavigate();
  const { templateId } = trying.asked;
  const typed: { clientId: string | null; name: string; likelihood: string } = { clientId: null, name: '', likelihood: USUAL_LIKELIHOOD };
  const form = useInputForm({
    rules: StartEngagement,
    typed,
    input: ({ clientId, name, likelihood }) => ({
      ...{ templateId: templateId ?? undefined, start: tried.start, clientId: clientId ?? undefined },
      ...{ name: name.trim(), likelihood: wholeTyped(likelihood) },
      roles: tried.roles.map((role) => ({ roleId: role.roleId, personId: role.chosen?.id ?? null })),
    }),
    send: async (input) => {
      const made = await performOrThrow({
        send: () => call<Made>('POST', '/engagements', input),
        said: `“${input.name}” is saved as a proposal and counts ${input.likelihood ?? 0} %.`,
      });
      await navigate(`/engagements/${made.id}`);
    },
  });
  return (
    <SheetPart>
      <h3>Save as proposal</h3>
      <SmallForm form={form} action="Save as proposal" gap={8}>
        <Choose
          {...form.bind('clientId')}
          label="Client"
          isTight
          placeholder="Choose the client"
          choices={clients?.map((client) => ({ id: client.id, name: client.name }))}
        />
        <Field {...form.bind('name')} label="Name" isTight placeholder="e.g. Tide hall gallery" />
        <Field {...form.bind('likelihood')} label="Likelihood in percent; that share counts in the workload" isTight inputMode="numeric" />
      </SmallForm>
    </SheetPart>
  );
}
