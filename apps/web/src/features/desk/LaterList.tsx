import { mondayOf, type IsoDay } from '@crew/core';
import type { DeskTask } from '@crew/contract';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { hourWords, shortDay } from '../../words/format.ts';
import { DeskList } from './parts.tsx';

interface LaterProps {
  readonly tasks: readonly DeskTask[];
  readonly today: IsoDay;
  readonly onOpen: (taskId: string) => void;
}

/** Longer lists are folded. */
const SHOWN = 6;

/** Work in phases that have not begun, by the week in which it begins. */
export function LaterList({ tasks, today, onOpen }: LaterProps) {
  const [isAll, setAll] = useState(false);
  if (tasks.length === 0) return null;
  const shown = isAll || tasks.length <= SHOWN + 2 ? tasks : tasks.slice(0, SHOWN);
  return (
    <DeskList
      title="Later"
      count={tasks.length}
      tasks={shown}
      onOpen={onOpen}
      headingOf={(task) => `Week of ${shortDay(mondayOf(task.start), today)}`}
      detail={(task) =>
        task.estimateMinutes === null ? task.engagement.name : `${task.engagement.name} · ${hourWords(task.remainingMinutes)}`
      }
      action={
        shown.length < tasks.length || isAll ? (
          <Button kind="quiet" onPress={() => setAll(!isAll)}>
            {isAll ? 'Show fewer' : `Show all ${tasks.length}`}
          </Button>
        ) : null
      }
    />
  );
}
