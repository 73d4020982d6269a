import { CHECK_KIND, type CheckKind } from '@crew/contract';
import type { TemplateCheck } from '@crew/core';
import { useState } from 'react';
import styled from 'styled-components';
import { useCustomFields } from '../../api/queries.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Muted } from '../../ui/layout.tsx';
import { TextCell } from '../../ui/TextCell.tsx';
import { CHECK_WORDS, checkText, wantsOf } from './gate-words.ts';

const Check = styled.div`
  display: flex;
  align-items: center;
  gap: 6px;
  > div {
    flex: 1;
    min-width: 0;
  }
`;
const Add = styled.form`
  display: grid;
  gap: 6px;
  margin-top: 8px;
`;
const AddLine = styled.div`
  display: flex;
  gap: 6px;
  align-items: end;
  > :first-child {
    flex: 1;
    min-width: 0;
  }
`;

/** Endings of files that are asked for; the empty one is any file. */
const ENDINGS = ['', 'pdf', 'png', 'jpg', 'svg', 'csv', 'xlsx', 'docx', 'wav', 'mp3', 'mp4'];

interface GateEditorProps {
  readonly checks: readonly TemplateCheck[];
  /** Of the tasks in its phase. */
  readonly titles: readonly string[];
  readonly onChange: (checks: readonly TemplateCheck[]) => void;
}

/** What a gate asks for: each check by its name, with one to be added below. */
export function GateEditor({ checks, titles, onChange }: GateEditorProps) {
  return (
    <>
      {checks.length === 0 ? <Muted>at any time: it has no gate</Muted> : null}
      {checks.map((check, index) => (
        <Check key={`${index} ${check.text}`}>
          <div>
            <TextCell
              label={`Check ${index + 1}`}
              value={check.text}
              onSave={(next) =>
                next.trim() === '' ? false : onChange(checks.map((one, other) => (other === index ? { ...one, text: next.trim() } : one)))
              }
            />
            <Muted>{wantsOf(check)}</Muted>
          </div>
          <Button
            kind="quiet"
            aria-label={`Remove the check ${check.text}`}
            onPress={() => onChange(checks.filter((_, other) => other !== index))}
          >
            ✕
          </Button>
        </Check>
      ))}
      <AddCheck titles={titles} onAdd={(check) => onChange([...checks, check])} />
    </>
  );
}

function AddCheck({ titles, onAdd }: { readonly titles: readonly string[]; readonly onAdd: (check: TemplateCheck) => void }) {
  const { data: fields } = useCustomFields();
  const [kind, setKind] = useState<CheckKind>('word');
  const [want, setWant] = useState<string | null>(null);
  const [text, setText] = useState('');
  const choices = choicesFor(kind, { titles, fields: (fields ?? []).map(({ name }) => name) });
  const isMissing = choices !== null && want === null;
  const words = text.trim() === '' ? checkText(kind, want) : text.trim();
  const add = (): void => {
    if (isMissing || words === '') return;
    onAdd({ kind, text: words, ...(choices === null || want === null || want === '' ? {} : { wants: [want] }) });
    setText('');
    setWant(null);
  };
  return (
    <Add
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Choose
        label="New check: clear when"
        isTight
        choices={CHECK_KIND.map((id) => ({ id, name: CHECK_WORDS[id] }))}
        value={kind}
        onChange={(id) => {
          setKind(id as CheckKind);
          setWant(null);
        }}
      />
      {choices === null ? null : <Choose label="Which" isTight choices={choices} value={want} onChange={setWant} />}
      <AddLine>
        <Field
          label=""
          aria-label="What the check is called"
          placeholder={checkText(kind, want) || 'e.g. Names checked'}
          isTight
          value={text}
          onChange={setText}
        />
        <Button type="submit" isDisabled={isMissing || words === ''}>
          Add
        </Button>
      </AddLine>
    </Add>
  );
}

/** What a kind of check can ask for; null for one that asks for nothing in particular. */
function choicesFor(
  kind: CheckKind,
  { titles, fields }: { readonly titles: readonly string[]; readonly fields: readonly string[] },
): readonly { readonly id: string; readonly name: string }[] | null {
  const plain = (names: readonly string[]) => [...new Set(names)].map((name) => ({ id: name, name }));
  if (kind === 'titled-done') return plain(titles);
  if (kind === 'field-filled') return plain(fields);
  if (kind === 'files-there') return ENDINGS.map((id) => ({ id, name: id === '' ? 'any file' : `${id.toUpperCase()} file` }));
  return null;
}
