import { can } from '@crew/contract';
import { useSetup } from '../../api/queries.ts';
import { useHint } from '../../session/hints.ts';
import { useWho } from '../../session/session.tsx';
import { Button } from '../../ui/Button.tsx';
import { SetupSteps } from './SetupSteps.tsx';

/** On an owner's desk until every step is done or the list is closed; it stays under Settings. */
export function SetupList() {
  const isOwner = can(useWho(), 'agency.edit-settings');
  const { isOpen, close } = useHint('setup');
  const { data } = useSetup(isOwner && isOpen);
  if (!isOwner || !isOpen || data === undefined || data.steps.every(({ isDone }) => isDone)) return null;
  return (
    <SetupSteps
      steps={data.steps}
      action={
        <Button kind="quiet" onPress={close}>
          Close list
        </Button>
      }
    />
  );
}
