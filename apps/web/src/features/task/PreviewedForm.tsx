import type { ReactNode } from 'react';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import type { InputForm } from '../../ui/form/use-input-form.ts';
import { Trouble } from '../../ui/text.tsx';
import { EffectWords } from './EffectWords.tsx';
import type { Effect } from './use-effect-of.ts';

interface PreviewedProps {
  readonly form: Pick<InputForm<unknown>, 'submit' | 'isSending' | 'trouble'>;
  /** What the change would do, as far as it is known. */
  readonly seen: Effect;
  readonly taskId: string;
  readonly isChanged: boolean;
  readonly action: string;
  readonly onCancel: () => void;
  /** Another button, beside the one that sends it. */
  readonly other?: ReactNode;
  readonly children: ReactNode;
}

/** A change of a task's plan: what it would move is seen before it is sent. */
export function PreviewedForm({ form, seen, taskId, isChanged, action, onCancel, other, children }: PreviewedProps) {
  const { today } = useWho();
  const { effect, problem } = seen;
  return (
    <form aria-busy={form.isSending} onSubmit={form.submit} noValidate>
      {children}
      <Trouble words={form.trouble ?? problem} />
      {problem !== undefined || effect === undefined ? null : <EffectWords effect={effect} today={today} taskId={taskId} />}
      <div>
        <Button kind="primary" type="submit" isDisabled={!isChanged || problem !== undefined}>
          {action}
        </Button>
        {other}
        <Button kind="quiet" onPress={onCancel}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
