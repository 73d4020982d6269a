import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { Typed, type PresetPartProps } from './preset-fields.tsx';

const Days = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 8px;
  margin: 6px 0;
`;

/** The part of a task an outside maker does. */
export function PresetOutside({ task, set }: PresetPartProps) {
  const { outside } = task;
  if (outside === null) {
    return (
      <SheetPart>
        <Button kind="text" onPress={() => set({ outside: { maker: 'An outside maker', turnaroundDays: 5, bufferDays: 2 } })}>
          Done by an outside maker
        </Button>
      </SheetPart>
    );
  }
  const days = (text: string): number | null => (/^\d{1,3}$/.test(text.trim()) ? Number(text) : null);
  return (
    <SheetPart>
      <h3>Done outside</h3>
      <Typed
        label="Outside maker"
        value={outside.maker}
        read={(text) => (text.trim() === '' ? null : { outside: { ...outside, maker: text.trim() } })}
        set={set}
      />
      <Days>
        <Typed
          label="Turnaround, working days"
          value={String(outside.turnaroundDays)}
          read={(text) => {
            const turnaroundDays = days(text);
            return turnaroundDays === null ? null : { outside: { ...outside, turnaroundDays } };
          }}
          set={set}
        />
        <Typed
          label="Our buffer, working days"
          value={String(outside.bufferDays)}
          read={(text) => {
            const bufferDays = days(text);
            return bufferDays === null ? null : { outside: { ...outside, bufferDays } };
          }}
          set={set}
        />
      </Days>
      <Button kind="text" onPress={() => set({ outside: null })}>
        Remove outside maker
      </Button>
    </SheetPart>
  );
}
