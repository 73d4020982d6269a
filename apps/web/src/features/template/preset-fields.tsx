import { Inline } from '../../ui/layout.tsx';
import type { TemplateTask } from '@crew/core';
import { useState } from 'react';
import { Button } from '../../ui/Button.tsx';
import { Field } from '../../ui/Field.tsx';
import { OneMore } from '../../ui/form/OneMore.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { TextCell } from '../../ui/TextCell.tsx';

/** A part of the preset of a task: the task, and how it is changed. */
export interface PresetPartProps {
  readonly task: TemplateTask;
  readonly set: (change: Partial<TemplateTask>) => void;
}

interface TypedProps {
  readonly label: string;
  readonly value: string;
  readonly read: (text: string) => Partial<TemplateTask> | null;
  readonly set: PresetPartProps['set'];
}

/** A short value typed in a field; saved as soon as it can be read. */
export function Typed({ label, value, read, set }: TypedProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isWrong = typed !== null && read(typed) === null;
  return (
    <Field
      label={label}
      isTight
      value={typed ?? value}
      onChange={(text) => {
        setTyped(text);
        const change = read(text);
        if (change !== null) set(change);
      }}
      onBlur={() => (isWrong ? undefined : setTyped(null))}
      error={isWrong ? 'This cannot be read.' : undefined}
    />
  );
}

interface LinesProps {
  readonly label: string;
  readonly add: string;
  readonly lines: readonly string[];
  readonly onChange: (lines: string[]) => void;
}

/** A list of short lines: each changed or emptied where it stands, one more typed below. */
export function Lines({ label, add, lines, onChange }: LinesProps) {
  return (
    <SheetPart>
      <h3>{label}</h3>
      {lines.map((line, index) => (
        <Inline key={`${index} ${line}`} $gap={6} $isOneLine>
          <TextCell
            label={`${label} ${index + 1}`}
            value={line}
            onSave={(next) =>
              onChange(
                next.trim() === ''
                  ? lines.filter((_, other) => other !== index)
                  : lines.map((one, other) => (other === index ? next.trim() : one)),
              )
            }
          />
          <Button kind="quiet" aria-label={`Remove ${line}`} onPress={() => onChange(lines.filter((_, other) => other !== index))}>
            ✕
          </Button>
        </Inline>
      ))}
      <OneMore label={add} onAdd={(line) => onChange([...lines, line])} />
    </SheetPart>
  );
}
