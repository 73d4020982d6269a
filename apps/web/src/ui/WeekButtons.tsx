import styled from 'styled-components';
import { Button } from './Button.tsx';
import { usePeriodKeys } from './use-period-keys.ts';

const Together = styled.span`
  display: inline-flex;
  gap: 6px;
`;

interface WeekButtonsProps {
  readonly onMove: (weeks: number) => void;
  readonly onThisWeek: () => void;
}

/** A week earlier, this week, a week later: by button and by `[` and `]`. They stay in one line. */
export function WeekButtons({ onMove, onThisWeek }: WeekButtonsProps) {
  usePeriodKeys(onMove);
  return (
    <Together>
      <Button aria-label="A week earlier" onPress={() => onMove(-1)}>
        ◂
      </Button>
      <Button onPress={onThisWeek}>This week</Button>
      <Button aria-label="A week later" onPress={() => onMove(1)}>
        ▸
      </Button>
    </Together>
  );
}
