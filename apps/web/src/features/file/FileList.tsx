import { Trouble } from '../../ui/text.tsx';
import { MOST_FILE_BYTES, type KeptFile } from '@crew/contract';
import { useState } from 'react';
import { DropZone, type FileDropItem } from 'react-aria-components';
import styled from 'styled-components';
import { sendFile, troubleWords } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { ChooseFile } from '../../ui/ChooseFile.tsx';
import { SheetPart } from '../../ui/Sheet.tsx';
import { fileSize } from '../../words/format.ts';

const Adding = styled.p`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  align-items: center;
  color: var(--ink-2);
  font-size: 12.5px;
`;

/** A file as a list shows it. */
export interface ListedFile {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  /** Who added it and when, where that is known. */
  readonly detail?: string;
}

const Zone = styled(DropZone)`
  margin: 0 -8px;
  padding: 0 8px;
  border-radius: 6px;
  outline-offset: -1px;
  &[data-drop-target] {
    background: var(--petrol-soft);
    outline: 1.5px dashed var(--petrol);
  }
`;
const Row = styled.li`
  display: grid;
  grid-template-columns: minmax(0, 1fr) auto auto;
  align-items: center;
  gap: 8px;
  min-height: 28px;
  a {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    color: var(--petrol);
    font-weight: 600;
  }
  small {
    color: var(--ink-2);
    font-size: 12px;
    white-space: nowrap;
  }
`;

const Ask = styled.div`
  display: flex;
  flex-wrap: wrap;
  align-items: center;
  gap: 6px 8px;
  margin: 8px 0;
  padding: 9px 11px;
  border: 1px solid var(--amber);
  border-radius: 6px;
  background: var(--amber-soft);
  p,
  small {
    flex: 1 1 100%;
  }
`;

const QuietRow = styled(Row)`
  color: var(--ink-2);
`;

interface FileListProps {
  readonly files: readonly ListedFile[];
  /** Left out where files are only read. `replaced` names those there that leave, as newer versions of them came. */
  readonly onAdd?: (files: readonly KeptFile[], replaced: readonly string[]) => void;
  readonly onRemove?: (id: string) => void;
  /** What to say while there are none. */
  readonly note: string;
}

/** Files at hand: downloaded by their name, removed, added by choosing or dropping them. */
export function FileList({ files, onAdd, onRemove, note }: FileListProps) {
  const { sending, trouble, twice, add, answer } = useAdding(files, onAdd);
  if (files.length === 0 && onAdd === undefined) return null;
  return (
    <SheetPart>
      <h3>Files</h3>
      <Zone
        aria-label="Drop files here"
        isDisabled={onAdd === undefined}
        onDrop={(event) => {
          const dropped = event.items.filter((item): item is FileDropItem => item.kind === 'file');
          void Promise.all(dropped.map((item) => item.getFile())).then(add);
        }}
      >
        <ul>
          {files.map((file) => (
            <FileRow key={file.id} file={file} {...(onRemove === undefined ? {} : { onRemove })} />
          ))}
          {sending.map((name) => (
            <QuietRow key={name}>
              <span role="status">Sending {name} …</span>
            </QuietRow>
          ))}
        </ul>
        {onAdd === undefined ? null : (
          <Adding>
            <ChooseFile isMany onChoose={(chosen) => void add([...chosen])}>
              <Button>Add a file…</Button>
            </ChooseFile>
            {files.length === 0 ? note : 'or drop it here'}
          </Adding>
        )}
        {twice === null ? null : <TwiceAsk twice={twice} onAnswer={answer} />}
        <Trouble words={trouble} />
      </Zone>
    </SheetPart>
  );
}

function FileRow({ file, onRemove }: { readonly file: ListedFile; readonly onRemove?: (id: string) => void }) {
  return (
    <Row>
      <a href={`/api/files/${file.id}`} download={file.name} title={`${file.name}${file.detail === undefined ? '' : ` · ${file.detail}`}`}>
        {file.name}
      </a>
      <small>{fileSize(file.bytes)}</small>
      {onRemove === undefined ? (
        <span />
      ) : (
        <Button kind="quiet" aria-label={`Remove ${file.name}`} onPress={() => onRemove(file.id)}>
          ✕
        </Button>
      )}
    </Row>
  );
}

/** Adds files; for names that are there already it asks first whether to replace them. */
function useAdding(files: readonly ListedFile[], onAdd: FileListProps['onAdd']) {
  const { sending, trouble, send } = useSending(onAdd);
  const [twice, setTwice] = useState<Twice | null>(null);
  const add = async (chosen: readonly File[]): Promise<void> => {
    const known = new Map(files.map(({ id, name }) => [name.toLowerCase(), id]));
    const fresh = chosen.filter(({ name }) => !known.has(name.toLowerCase()));
    const again = chosen.filter(({ name }) => known.has(name.toLowerCase()));
    if (again.length > 0) setTwice({ files: again, ids: again.map(({ name }) => known.get(name.toLowerCase()) as string) });
    if (fresh.length > 0) await send(fresh, []);
  };
  const answer = (replaced: readonly string[] | null): void => {
    setTwice(null);
    if (twice !== null && replaced !== null) void send(twice.files, replaced);
  };
  return { sending, trouble, twice, add, answer };
}

/** Files of a name that is there already, with the ids of those there. */
interface Twice {
  readonly files: readonly File[];
  readonly ids: readonly string[];
}

/** A file with this name exists: a newer version in place of the one there, both, or not at all. */
function TwiceAsk({
  twice: { files, ids },
  onAnswer,
}: {
  readonly twice: Twice;
  readonly onAnswer: (replaced: readonly string[] | null) => void;
}) {
  const [one] = files;
  const names = files.length === 1 ? `“${one?.name ?? ''}” is` : `${files.map(({ name }) => `“${name}”`).join(', ')} are`;
  return (
    <Ask role="alertdialog" aria-label="A file with this name exists">
      <p>{names} here already.</p>
      <Button kind="primary" onPress={() => onAnswer(ids)}>
        New version
      </Button>
      <Button onPress={() => onAnswer([])}>Keep both</Button>
      <Button kind="quiet" onPress={() => onAnswer(null)}>
        Cancel
      </Button>
      <small>A new version replaces the one here. You can get the old one back from History.</small>
    </Ask>
  );
}

/** Sends files one after the other; those that arrived are put on even when one did not. */
function useSending(onAdd: FileListProps['onAdd']) {
  const [sending, setSending] = useState<readonly string[]>([]);
  const [trouble, setTrouble] = useState<string>();
  const send = async (chosen: readonly File[], replaced: readonly string[]): Promise<void> => {
    setTrouble(undefined);
    const large = chosen.find((file) => file.size > MOST_FILE_BYTES);
    if (large !== undefined)
      return setTrouble(`“${large.name}” is larger than ${fileSize(MOST_FILE_BYTES)}. Store it elsewhere and add a link.`);
    setSending(chosen.map((file) => file.name));
    const kept: KeptFile[] = [];
    for (const file of chosen) {
      try {
        kept.push(await sendFile(file));
      } catch (error) {
        setTrouble(`“${file.name}” was not uploaded. ${troubleWords(error)}`);
      }
    }
    setSending([]);
    // What did not arrive replaces nothing.
    if (kept.length > 0) onAdd?.(kept, kept.length === chosen.length ? replaced : []);
  };
  return { sending, trouble, send };
}
