import type { ClientHue, PersonRef, TaskStatus } from '@crew/contract';
import { TASK_STATUS_WORDS } from '@crew/contract';
import styled from 'styled-components';
import { hueVar } from './tokens.ts';

const MarkImage = styled.svg`
  flex: none;
`;

const InlineMarkImage = styled.svg`
  flex: none;
  margin-left: 6px;
  vertical-align: -0.5px;
`;

/** The thin upright mark that says whose work it is. */
export const HueMark = styled.span<{ $hue: ClientHue; $height?: number }>`
  flex: none;
  align-self: stretch;
  width: 4px;
  min-height: ${({ $height = 14 }) => $height}px;
  border-radius: 2px;
  background: ${({ $hue }) => hueVar($hue)};
`;

const Initials = styled.span`
  display: inline-grid;
  place-items: center;
  flex: none;
  min-width: 21px;
  height: 20px;
  padding: 0 3px;
  border-radius: 5px;
  background: var(--chip);
  color: var(--ink);
  font-size: 9.5px;
  font-weight: 700;
  letter-spacing: 0.02em;
`;

/** Somebody, by initials; the full name for those who point or listen. */
export function PersonMark({ person }: { readonly person: PersonRef }) {
  return (
    <Initials title={person.name} role="img" aria-label={person.name}>
      {person.initials}
    </Initials>
  );
}

/** A small outlined word: the client, a role, a round. */
export const Tag = styled.span`
  display: inline-block;
  padding: 1px 7px;
  border: 1px solid var(--line);
  border-radius: 4px;
  background: var(--sunk);
  color: var(--ink-2);
  font-size: 11.5px;
  white-space: nowrap;
`;

const HALF = 'M1.5 1.5 H11 L8 10.5 H1.5 Z';
const MOST = 'M1.5 1.5 H17 L14.5 10.5 H1.5 Z';

function glyphShape(status: TaskStatus) {
  const frame = (stroke: string, fill = 'none') => (
    <rect x="0.75" y="0.75" width="18.5" height="10.5" rx="3" fill={fill} stroke={stroke} strokeWidth="1.5" />
  );
  switch (status) {
    case 'queued':
      return frame('var(--joint)');
    case 'active':
      return (
        <>
          <path d={HALF} fill="var(--petrol)" />
          {frame('var(--petrol)')}
        </>
      );
    case 'review':
      return (
        <>
          <path d={MOST} fill="var(--petrol-mid)" />
          {frame('var(--petrol)')}
        </>
      );
    case 'waiting':
      return (
        <>
          {frame('var(--amber)', 'var(--amber-soft)')}
          <path d="M8.2 3.6 V8.4 M11.8 3.6 V8.4" stroke="var(--amber)" strokeWidth="1.6" />
        </>
      );
    case 'done':
      return (
        <>
          {frame('var(--moss)', 'var(--moss)')}
          <path d="M6.6 6.2 L9 8.4 L13.4 3.8" fill="none" stroke="var(--panel)" strokeWidth="1.7" />
        </>
      );
    case 'dropped':
      return (
        <>
          {frame('var(--joint)')}
          <path d="M2 10 L18 2" stroke="var(--joint)" strokeWidth="1.5" />
        </>
      );
  }
}

/** A task as a small track of its own: the fill says its state. */
export function TaskGlyph({ status }: { readonly status: TaskStatus }) {
  return (
    <MarkImage width="20" height="12" viewBox="0 0 20 12" role="img" aria-label={TASK_STATUS_WORDS[status]}>
      {glyphShape(status)}
    </MarkImage>
  );
}

/** Work that repeats: the same bar again and again. */
export function RepeatMark() {
  return (
    <InlineMarkImage width="15" height="10" viewBox="0 0 15 10" role="img" aria-label="repeats">
      <title>repeats</title>
      <rect x="0" y="2.5" width="3" height="5" rx="1.2" fill="var(--petrol)" />
      <rect x="5.8" y="2.5" width="3" height="5" rx="1.2" fill="var(--petrol)" opacity="0.7" />
      <rect x="11.6" y="2.5" width="3" height="5" rx="1.2" fill="var(--petrol)" opacity="0.4" />
    </InlineMarkImage>
  );
}
