import { perform } from '../../session/perform.ts';
import type { EditEngagement, EngagementChanged, EngagementPlan } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { useClients, useCrew } from '../../api/queries.ts';
import { useWho } from '../../session/session.tsx';
import { Choose } from '../../ui/Field.tsx';
import { DayField } from '../../ui/DayField.tsx';
import { Sheet, SheetPart } from '../../ui/Sheet.tsx';
import { NO_DAY_TYPED } from '../../ui/form/typed.ts';
import { TextCell } from '../../ui/TextCell.tsx';
import { shortDay } from '../../words/format.ts';
import { ApplyPart } from './ApplyPart.tsx';
import { RoleHolders } from './RoleHolders.tsx';

const PercentCell = styled(TextCell)`
  width: 9ch;
  margin: 0;
  padding: 5px 9px;
  border-color: var(--joint);
  border-radius: 5px;
`;

const NONE = 'none';

interface AboutProps {
  readonly plan: EngagementPlan;
  readonly onClose: () => void;
}
type Engagement = EngagementPlan['engagement'];
type Change = Omit<EditEngagement, 'version'>;
type Save = (change: Change, said: string) => void;

const Choices = styled(SheetPart)`
  display: flex;
  flex-direction: column;
  gap: 9px;
`;
const SmallLabel = styled.small`
  display: block;
  margin-bottom: 3px;
  color: var(--ink-2);
  font-size: 12px;
  font-weight: 600;
`;

const pathOf = ({ id }: Engagement): string => `/engagements/${id}`;
const send = (engagement: Engagement, change: Change): Promise<EngagementChanged> =>
  call<EngagementChanged>('PATCH', pathOf(engagement), { version: engagement.version, ...change });

/** The engagement itself: its name, lead, contact, promised date and likelihood. */
export function AboutSheet({ plan, onClose }: AboutProps) {
  const { engagement } = plan;
  const people = useCrew().data?.people;
  const contacts = useClients().data?.find((client) => client.id === engagement.clientId)?.contacts;
  /** Saved at once, with an undo in the notice. */
  const save: Save = (change, said) => void perform({ send: () => send(engagement, change), said, undo: ({ changeId }) => changeId });
  return (
    <Sheet label="Engagement details" line={engagement.client.name} onClose={onClose}>
      <TextCell
        label="Name of the engagement"
        value={engagement.name}
        onSave={(text) => {
          const name = text.trim();
          if (name === '') return false;
          if (name !== engagement.name) save({ name }, `Engagement renamed to “${name}”.`);
          return true;
        }}
        isTitle
      />
      <PromisePart plan={plan} key={engagement.promise ?? NONE} />
      <Choices>
        <Choose
          label="Lead"
          isTight
          choices={people}
          value={engagement.lead.id}
          onChange={(leadId) => save({ leadId }, `${people?.find(({ id }) => id === leadId)?.name ?? ''} is now the lead.`)}
        />
        <Choose
          label="Contact"
          isTight
          choices={contacts && [{ id: NONE, name: 'No contact' }, ...contacts]}
          value={engagement.contactId ?? NONE}
          onChange={(id) => {
            const contactId = id === NONE ? null : id;
            const name = contacts?.find((contact) => contact.id === id)?.name ?? 'No contact';
            save({ contactId }, `${name} is now the contact.`);
          }}
        />
        {engagement.state === 'proposal' ? <Likelihood likelihood={engagement.likelihood} save={save} /> : null}
      </Choices>
      <RoleHolders engagementId={engagement.id} />
    </Sheet>
  );
}

/** How likely a proposal is to be accepted: its hours count that much in everybody's load. */
function Likelihood({ likelihood, save }: { readonly likelihood: number; readonly save: Save }) {
  const label = 'Likelihood of going ahead, in percent';
  return (
    <div>
      <SmallLabel>{label}</SmallLabel>
      <PercentCell
        label={label}
        value={String(likelihood)}
        onSave={(text) => {
          const percent = Number(text.replace('%', '').trim());
          if (!Number.isInteger(percent) || percent < 0 || percent > 100) return false;
          save({ likelihood: percent }, `Its work now counts ${percent} % in the workload.`);
          return true;
        }}
      />
    </div>
  );
}

/** A new promise is previewed before it is saved: what is anchored to it moves, and slack changes. */
function PromisePart({ plan }: { readonly plan: EngagementPlan }) {
  const { engagement } = plan;
  const { today } = useWho();
  const [day, setDay] = useState(engagement.promise ?? NO_DAY_TYPED);
  const promise = day === '' ? null : day;
  const isOther = promise !== engagement.promise;
  const body = { version: engagement.version, promise };
  return (
    <SheetPart>
      <DayField label="Promised date" isTight value={day} onChange={setDay} today={today} placeholder="No promised date" />
      {isOther ? (
        <ApplyPart
          ask={{ path: `${pathOf(engagement)}/edit/preview`, body }}
          apply={() => send(engagement, { promise })}
          action={promise === null ? 'Remove promised date' : `Set promised date to ${shortDay(promise, today)}`}
          said={promise === null ? 'Promised date removed.' : `Promised date is now ${shortDay(promise, today)}.`}
          onApplied={() => undefined}
        />
      ) : null}
    </SheetPart>
  );
}
