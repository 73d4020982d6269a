import { DropEngagement, type EngagementPlan, type Versioned } from '@crew/contract';
import { call } from '../../api/client.ts';
import { backBy, performOrThrow, type Step } from '../../session/perform.ts';
import { Field } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { Muted } from '../../ui/layout.tsx';
import { Sheet, SheetPart, SheetTitle } from '../../ui/Sheet.tsx';

type Engagement = EngagementPlan['engagement'];

interface CloseProps {
  readonly plan: EngagementPlan;
  readonly onClose: () => void;
}

/** Closes it without finishing: not a fit, or the client said no. Nothing is lost, and it can be reopened. */
export function CloseSheet({ plan: { engagement }, onClose }: CloseProps) {
  const form = useInputForm({
    rules: DropEngagement,
    typed: { reason: '' },
    input: ({ reason }) => ({ version: engagement.version, reason: reason.trim() }),
    send: async (input) => {
      await performOrThrow(closing(engagement, input));
      onClose();
    },
  });
  return (
    <Sheet label="Close without finishing" line={engagement.client.name} onClose={onClose}>
      <SheetTitle>Close without finishing</SheetTitle>
      <Muted>
        Its tasks are removed from everybody’s days, and nothing in it can be changed until it is reopened. The reason is kept in the
        history.
      </Muted>
      <SheetPart>
        <SmallForm form={form} action="Close engagement" onCancel={onClose}>
          <Field {...form.bind('reason')} label="Why" placeholder="e.g. no money this year" autoFocus />
        </SmallForm>
      </SheetPart>
    </Sheet>
  );
}

/** Closes an engagement; the notice reopens it. */
export const closing = ({ id, name }: Pick<Engagement, 'id' | 'name'>, input: DropEngagement): Step<Versioned> => ({
  send: () => call<Versioned>('POST', `/engagements/${id}/drop`, input),
  said: `“${name}” is closed. Its tasks are removed from everybody’s days.`,
  undo: ({ version }) => backBy(reopening({ id, name }, version).send),
});

/** What was closed goes on as it was; what was completed goes on in its last phase. */
export const reopening = ({ id, name }: Pick<Engagement, 'id' | 'name'>, version: number): Step<unknown> => ({
  send: () => call('POST', `/engagements/${id}/reopen`, { version }),
  said: `“${name}” is open again.`,
});
