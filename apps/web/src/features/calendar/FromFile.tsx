import type { IsoDay } from '@crew/core';
import { Toned, Trouble } from '../../ui/text.tsx';
import type { CalendarFile } from '@crew/contract';
import { useState } from 'react';
import { Inline } from '../../ui/layout.tsx';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { ChooseFile } from '../../ui/ChooseFile.tsx';
import { count, hourWords, spanWords } from '../../words/format.ts';
import { useAct } from './use-act.ts';

const Preview = styled.div`
  margin: 8px 0;
  padding: 10px 12px;
  border: 1px solid var(--joint);
  border-radius: 7px;
  background: var(--sunk);
  ul {
    max-height: 190px;
    overflow: auto;
    margin: 6px 0 8px;
  }
  li {
    display: grid;
    grid-template-columns: 132px minmax(0, 1fr);
    gap: 10px;
    padding: 2px 0;
  }
  .left-out {
    display: block;
    color: var(--ink-2);
    font-size: 12.5px;
  }
`;

interface FromFileProps<Kept extends CalendarFile> {
  /** Where the file is sent: closed days, or somebody's time off. */
  readonly path: string;
  readonly label: string;
  readonly today: IsoDay;
  readonly said: (kept: Kept) => string;
  readonly onKept?: (kept: Kept) => void;
}

/** An iCalendar file: its contents are previewed, then imported or not. */
export function FromFile<Kept extends CalendarFile>({ path, label, today, said, onKept }: FromFileProps<Kept>) {
  const [file, setFile] = useState<{ readonly name: string; readonly text: string; readonly found: CalendarFile } | null>(null);
  const { act, trouble, isBusy } = useAct();
  const read = async (chosen: File | undefined): Promise<void> => {
    if (chosen === undefined) return;
    setFile(null);
    const text = await chosen.text();
    const read = await act({ send: () => call<CalendarFile>('POST', path, { text, isTrial: true }) });
    if (read.isDone) setFile({ name: chosen.name, text, found: read.answer });
  };
  const keep = async (text: string): Promise<void> => {
    const kept = await act({ send: () => call<Kept>('POST', path, { text }), said, undo: ({ changeId }) => changeId });
    if (!kept.isDone) return;
    setFile(null);
    onKept?.(kept.answer);
  };
  return (
    <>
      <ChooseFile types={['text/calendar', '.ics']} onChoose={([file]) => void read(file)}>
        <Button isDisabled={isBusy}>{label}</Button>
      </ChooseFile>
      <Trouble words={trouble} />
      {file === null ? null : (
        <FilePreview name={file.name} found={file.found} today={today} onKeep={() => void keep(file.text)} onLeave={() => setFile(null)} />
      )}
    </>
  );
}

interface FilePreviewProps {
  readonly name: string;
  readonly found: CalendarFile;
  readonly today: IsoDay;
  readonly onKeep: () => void;
  readonly onLeave: () => void;
}

/** How many entries are new, and what of the file is there already. */
function headWords(name: string, { unchanged, faults }: CalendarFile, added: number): string {
  const there = unchanged === 0 ? '' : `, ${unchanged} already here`;
  const wrong = faults.length === 0 ? '' : `; ${count(faults.length, 'line')} cannot be read`;
  return `${name}: ${added === 0 ? 'nothing new' : count(added, 'new entry', 'new entries')}${there}${wrong}`;
}

function FilePreview({ name, found, today, onKeep, onLeave }: FilePreviewProps) {
  const lines = [
    ...found.days.map((line) => ({ from: line.day, to: line.day, words: line.name })),
    ...found.spans.map(({ from, to, minutes, note }) => ({
      from,
      to,
      words: [minutes === null ? 'whole days' : `${hourWords(minutes)} a day`, note].filter((word) => word !== '').join(' · '),
    })),
  ];
  return (
    <Preview role="region" aria-label={`Contents of ${name}`}>
      <strong>{headWords(name, found, lines.length)}</strong>
      <ul tabIndex={0} aria-label="Entries of the file">
        {lines.map(({ from, to, words }) => (
          <li key={`${from} ${to} ${words}`}>
            <span>{spanWords(from, to, today)}</span>
            <span>{words}</span>
          </li>
        ))}
        {found.removed.map(({ from, to, note }) => (
          <li key={`${from} ${to} ${note} removed`}>
            <span>{spanWords(from, to, today)}</span>
            <span>{note}: cancelled or moved, will be removed</span>
          </li>
        ))}
        {found.faults.map((sentence) => (
          <Toned key={sentence} as="li" className="left-out" $tone="bad">
            {sentence}
          </Toned>
        ))}
        {found.leftOut.map((sentence) => (
          <li key={sentence} className="left-out">
            {sentence} It does not count.
          </li>
        ))}
      </ul>
      <Inline as="span">
        {lines.length + found.removed.length === 0 ? null : (
          <Button kind="primary" onPress={onKeep}>
            {lines.length === 0 ? 'Apply' : `Import ${count(lines.length, 'entry', 'entries')}`}
          </Button>
        )}
        <Button onPress={onLeave}>Cancel</Button>
      </Inline>
    </Preview>
  );
}
