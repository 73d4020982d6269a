import styled from 'styled-components';
import { Button } from '../../ui/Button.tsx';
import { count } from '../../words/format.ts';

/** Why a file was not imported, with every fault and its place in the file. */
export interface ImportTrouble {
  readonly name: string;
  readonly message: string;
  readonly faults: readonly { readonly at: string; readonly message: string }[];
}

const Note = styled.div`
  margin-bottom: 12px;
  padding: 10px 14px;
  border: 1px solid var(--brick);
  border-radius: 7px;
  background: var(--brick-soft);
  ul {
    max-height: 220px;
    overflow: auto;
    margin: 6px 0;
  }
  code {
    font-size: 12px;
    color: var(--ink-2);
  }
`;

/** A file as JSON, or why it is none. */
export async function readFile(file: File): Promise<{ readonly json: object } | { readonly trouble: ImportTrouble }> {
  const none = { name: file.name, faults: [] };
  if (file.size > 60_000_000)
    return { trouble: { ...none, message: 'This file is larger than 60 MB. Leave some of the files in it out.' } };
  try {
    const json: unknown = JSON.parse(await file.text());
    if (typeof json === 'object' && json !== null) return { json };
  } catch {
    // It is said below: what the parser says helps nobody.
  }
  return { trouble: { ...none, message: 'This file is not JSON. Export a template to see the format.' } };
}

/** All that is wrong with a file at once: nothing of it was kept. */
export function ImportNote({ trouble, onClose }: { readonly trouble: ImportTrouble; readonly onClose: () => void }) {
  const { name, message, faults } = trouble;
  return (
    <Note role="alert">
      <strong>
        {name} was not imported{faults.length > 0 ? `: ${count(faults.length, 'fault')}` : ''}
      </strong>
      {faults.length === 0 ? <p>{message}</p> : null}
      <ul tabIndex={0} aria-label="Faults in the file">
        {faults.map((fault) => (
          <li key={`${fault.at} ${fault.message}`}>
            <code>{fault.at}</code> {fault.message}
          </li>
        ))}
      </ul>
      <Button onPress={onClose}>Close</Button>
    </Note>
  );
}
