import { CREW_ACCESS_WORDS, type PeopleInvited } from '@crew/contract';
import { useState } from 'react';
import styled from 'styled-components';
import { ApiError, call, troubleWords } from '../../api/client.ts';
import { useCalendar, useCrew } from '../../api/queries.ts';
import { performOrThrow } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { CopyLine } from '../../ui/CopyLine.tsx';
import { Field } from '../../ui/Field.tsx';
import { weekWords } from '../../ui/form/week.ts';
import { Inline } from '../../ui/layout.tsx';
import { Note, Toned, Trouble } from '../../ui/text.tsx';
import { hiddenText, phone } from '../../ui/tokens.ts';
import { count } from '../../words/format.ts';
import { readPeople, type PersonLine } from './people-lines.ts';

const Preview = styled.table`
  width: 100%;
  border-collapse: collapse;
  margin: 10px 0 12px;
  font-size: 13px;
  th {
    text-align: left;
    font-weight: 600;
    color: var(--ink-2);
    font-size: 12px;
  }
  th,
  td {
    padding: 5px 10px 5px 0;
    border-bottom: 1px solid var(--line-2);
    vertical-align: top;
    overflow-wrap: anywhere;
  }
  ${phone} {
    thead {
      ${hiddenText}
    }
    tr {
      display: block;
      padding: 6px 0;
      border-bottom: 1px solid var(--line-2);
    }
    td {
      display: block;
      padding: 1px 0;
      border: 0;
    }
    td:first-child {
      font-weight: 600;
    }
  }
`;

const EXAMPLE = 'Ada Brook, ada@studio.example, Web designer, 30 h\nBen Vale, ben@studio.example, Writer / Project lead, lead';

/** The crew as it is typed or pasted; everybody in it gets a link to choose a password. */
export function PeopleStep({ onNext }: { readonly onNext: () => void }) {
  const [invited, setInvited] = useState<PeopleInvited['links'] | null>(null);
  return (
    <>
      <h2>Who works with you?</h2>
      {invited === null ? <PeopleBox onInvited={setInvited} onSkip={onNext} /> : <Invited links={invited} onNext={onNext} />}
    </>
  );
}

interface BoxProps {
  readonly onInvited: (links: PeopleInvited['links']) => void;
  readonly onSkip: () => void;
}

function PeopleBox({ onInvited, onSkip }: BoxProps) {
  const { data: crew } = useCrew();
  const { data: calendar } = useCalendar();
  const [text, setText] = useState('');
  const [refused, setRefused] = useState<{ readonly index: number | null; readonly words: string } | null>(null);
  const week = calendar?.week ?? [];
  const lines = readPeople(text, { roles: crew?.roles.map(({ name }) => name) ?? [], week });
  const isReady = lines.length > 0 && lines.every(({ fault }) => fault === null);
  const invite = async (): Promise<void> => {
    try {
      const { links } = await performOrThrow({
        send: () => call<PeopleInvited>('POST', '/invitations', { people: lines.map(({ person }) => person) }),
        said: ({ links }) => `${count(links.length, 'person', 'people')} invited.`,
      });
      onInvited(links);
    } catch (error) {
      setRefused({ index: placeOf(error), words: troubleWords(error) });
    }
  };
  return (
    <>
      <p>
        One person a line: name, mail address, roles, hours a week. Paste from a spreadsheet if you like; the order of the columns does not
        matter. Add “lead” or “freelancer” for their access; everybody else is a member.
      </p>
      <Field
        label="People"
        isLong
        isTight
        rows={6}
        autoFocus
        placeholder={EXAMPLE}
        value={text}
        onChange={(next) => {
          setText(next);
          setRefused(null);
        }}
      />
      {lines.length === 0 ? null : <PeoplePreview lines={lines} week={week} refused={refused} />}
      <Trouble words={refused?.index === null ? refused.words : undefined} />
      <Inline $gap={8}>
        <Button kind="primary" isDisabled={!isReady} onPress={() => void invite()}>
          {lines.length === 0 ? 'Invite' : `Invite ${count(lines.length, 'person', 'people')}`}
        </Button>
        <Button kind="quiet" onPress={onSkip}>
          Skip
        </Button>
      </Inline>
    </>
  );
}

interface PreviewProps {
  readonly lines: readonly PersonLine[];
  readonly week: readonly number[];
  /** The server's refusal for one of them. */
  readonly refused: { readonly index: number | null; readonly words: string } | null;
}

/** How each line is understood, before anybody is invited. */
function PeoplePreview({ lines, week, refused }: PreviewProps) {
  return (
    <Preview aria-label="Preview">
      <thead>
        <tr>
          {['Name', 'Mail address', 'Roles', 'Access', 'Hours a week'].map((head) => (
            <th key={head} scope="col">
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {lines.map(({ line, person, fault }, index) => {
          const wrong = fault ?? (refused?.index === index ? refused.words : null);
          return (
            <tr key={line}>
              <td>{person.name}</td>
              <td>
                {person.email}
                {wrong === null ? null : (
                  <Toned as="div" $tone="bad" role="alert">
                    Line {line}: {wrong}
                  </Toned>
                )}
              </td>
              <td>{person.roles?.join(', ') || 'no role yet'}</td>
              <td>{CREW_ACCESS_WORDS[person.access ?? 'member'].name}</td>
              <td>{weekWords(person.week ?? week)}</td>
            </tr>
          );
        })}
      </tbody>
    </Preview>
  );
}

function Invited({ links, onNext }: { readonly links: PeopleInvited['links']; readonly onNext: () => void }) {
  const isMailed = links.every(({ mailedTo }) => mailedTo !== null);
  return (
    <>
      <Note>
        {isMailed
          ? 'Each was mailed a link to choose a password. You find the links under Crew, too.'
          : 'No mail server is connected yet, so pass these links on yourself. Each works once, for two weeks; you find them under Crew, too.'}
      </Note>
      {isMailed ? null : (
        <ul>
          {links.map(({ personId, name, link }) => (
            <li key={personId}>
              {name}
              <CopyLine label={`Link for ${name}`} text={link} />
            </li>
          ))}
        </ul>
      )}
      <Button kind="primary" onPress={onNext}>
        Continue
      </Button>
    </>
  );
}

/** Which of the people a refusal is about: `people.2.email` is the third. */
const placeOf = (error: unknown): number | null => {
  const [, index] = /^people\.(\d+)\./.exec(error instanceof ApiError ? (error.field ?? '') : '') ?? [];
  return index === undefined ? null : Number(index);
};
