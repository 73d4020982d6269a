import { can, DropEngagement, type WayOut } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { usePlan } from '../../api/queries.ts';
import { performOrThrow } from '../../session/perform.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { applyAt, ApplyPart } from '../engagement/ApplyPart.tsx';
import { closing } from '../engagement/CloseSheet.tsx';

interface WaysProps {
  readonly ways: readonly WayOut[];
  readonly engagement: { readonly id: string; readonly name: string };
}

const Way = styled.div`
  padding: 6px 0;
`;

/** Where the map leads beside the ordinary next step: another round, or an ending. */
export function WaysOut({ ways, engagement }: WaysProps) {
  const me = useWho();
  const [open, setOpen] = useState<string | null>(null);
  const offered = ways.filter(({ to }) => can(me, to === null ? 'engagement.edit' : 'plan.edit'));
  if (offered.length === 0) return null;
  return (
    <SheetPart>
      <h3>Other outcomes</h3>
      {offered.map((way) => {
        const isOpen = open === `${way.taskId} ${way.id}`;
        const close = (): void => setOpen(null);
        return (
          <Way key={`${way.taskId} ${way.id}`}>
            {isOpen ? null : (
              <Button onPress={() => setOpen(`${way.taskId} ${way.id}`)}>
                {way.to === null ? `Close: ${way.ending ?? ''}…` : `Another round from “${way.to.title}”…`}
              </Button>
            )}
            <Muted as="p">{way.reason}</Muted>
            {!isOpen ? null : way.to === null ? (
              <EndingForm way={way} engagement={engagement} onCancel={close} />
            ) : (
              <RoundPreview way={way} engagementId={engagement.id} onDone={close} />
            )}
          </Way>
        );
      })}
    </SheetPart>
  );
}

/** Which round it would be, and what it would move; the notice undoes it. */
function RoundPreview({ way, engagementId, onDone }: { readonly way: WayOut; readonly engagementId: string; readonly onDone: () => void }) {
  const isLead = can(useWho(), 'engagement.edit');
  const { data: plan } = usePlan(engagementId);
  const phase = plan?.phases.find(({ id }) => id === plan.tasks.find((task) => task.id === way.to?.id)?.phaseId);
  if (phase === undefined) return null;
  const next = phase.round + 1;
  const agreed = phase.rounds;
  const isBeyond = agreed !== null && next > agreed;
  // Somebody has to pay for it: people who are not leads are told who decides.
  const isQuestion = isBeyond && !isLead;
  const body = { taskId: way.taskId, wayId: way.id, ...(isQuestion ? { askLead: true } : {}) };
  const ask = { path: `/engagements/${engagementId}/rounds/preview`, body };
  return (
    <>
      <p>
        Another round from “{way.to?.title}”: <strong>{agreed === null ? `Round ${next}` : `Round ${next} of ${agreed}`}</strong>
        {isBeyond ? ': more than was agreed with the client' : ''}
        {isQuestion ? '. The lead decides about it.' : ''}
      </p>
      <ApplyPart
        ask={ask}
        apply={() => applyAt(`/engagements/${engagementId}/rounds`, ask.body)}
        action={isQuestion ? `Ask the lead about round ${next}` : `Start round ${next}`}
        said={isQuestion ? `The lead has a task to decide about round ${next}.` : `Round ${next} of ${phase.name} has started.`}
        onApplied={onDone}
        onCancel={onDone}
      />
    </>
  );
}

function EndingForm({
  way,
  engagement,
  onCancel,
}: {
  readonly way: WayOut;
  readonly engagement: WaysProps['engagement'];
  readonly onCancel: () => void;
}) {
  const { data: plan } = usePlan(engagement.id);
  const form = useInputForm({
    rules: DropEngagement,
    typed: { reason: way.reason },
    input: ({ reason }) => ({ version: plan?.engagement.version, reason: reason.trim(), ending: way.ending ?? undefined }),
    send: async (input) => {
      await performOrThrow(closing(engagement, input));
      onCancel();
    },
  });
  return (
    <SmallForm form={form} action="Close engagement" onCancel={onCancel} isBlocked={plan === undefined}>
      <Field {...form.bind('reason')} label="Why" autoFocus />
    </SmallForm>
  );
}
