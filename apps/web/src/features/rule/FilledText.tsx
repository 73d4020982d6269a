import { Fragment } from 'react';
import styled from 'styled-components';

const Fill = styled.i`
  font-style: normal;
  padding: 0 3px;
  border-radius: 3px;
  background: var(--petrol-soft);
  color: var(--petrol);
`;

/** Facts a text can name, with what is filled in for each. */
export const FILL_INS: Readonly<Record<string, string>> = {
  ...{ task: 'task', phase: 'phase', client: 'client', engagementName: 'engagement', person: 'person', role: 'role' },
  ...{ percent: 'percent', round: 'round', status: 'status', priority: 'priority' },
};

/** A text of a rule with the facts that are filled in when it runs as words of their own. */
export const FilledText = ({ text }: { readonly text: string }) =>
  text.split(/(\{[a-zA-Z]+\})/).map((piece, index) => {
    const name = /^\{([a-zA-Z]+)\}$/.exec(piece)?.[1];
    return name === undefined ? <Fragment key={index}>{piece}</Fragment> : <Fill key={index}>{FILL_INS[name] ?? name}</Fill>;
  });
