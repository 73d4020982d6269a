import type { RuleChoices, SlotSpec, SlotValue } from '@crew/contract';
import { choicesFor, keyOf } from './slot-choices.ts';
import { SlotList } from './SlotList.tsx';
import { DaySlot, DaysSlot, FieldSlot, NumberSlot, TextSlot } from './TypedSlot.tsx';

interface SlotEditorProps {
  readonly spec: SlotSpec;
  readonly label: string;
  readonly value: SlotValue | null | undefined;
  readonly choices: RuleChoices;
  readonly onChange: (value: SlotValue | null) => void;
}

/** Chooses the value of a slot, each kind in its own way. */
export function SlotEditor({ spec, label, value, choices, onChange }: SlotEditorProps) {
  switch (spec.kind) {
    case 'text':
      return <TextSlot label={label} value={value} onChange={onChange} isLong />;
    case 'letter':
      return <TextSlot label={label} value={value} onChange={onChange} isLong hasLines />;
    case 'title':
      return <TextSlot label={label} value={value} onChange={onChange} isLong={false} />;
    case 'percent':
      return <NumberSlot label="Percent" value={value} onChange={onChange} />;
    case 'offset':
    case 'shift':
      return <DaysSlot label="Working days" kind={spec.kind} value={value} onChange={onChange} />;
    case 'day':
      return <DaySlot label="Working days" value={value} onChange={onChange} />;
    case 'field':
      return <FieldSlot label="Custom field" value={value} onChange={onChange} fields={choices.fields} />;
    default: {
      // Names of phases and labels can be ones that nothing has yet.
      const isFree = spec.kind === 'phase' || spec.kind === 'label';
      return (
        <SlotList
          label={label}
          choices={choicesFor(spec, choices) ?? []}
          chosen={keyOf(value)}
          onChoose={(choice) => onChange(choice.value)}
          {...(isFree ? { onType: onChange } : {})}
        />
      );
    }
  }
}
