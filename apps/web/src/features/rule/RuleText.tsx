import { conditionParts, thenParts, whenParts, type RuleContent, type RuleNames, type SentencePart } from '@crew/contract';
import { Fragment } from 'react';
import styled from 'styled-components';
import { FilledText } from './FilledText.tsx';

const Slot = styled.span<{ $isOpen: boolean }>`
  border-bottom: 1px solid ${({ $isOpen }) => ($isOpen ? 'var(--amber)' : 'var(--petrol-mid)')};
`;

/** Pieces of a sentence, what was chosen underlined. */
export const Parts = ({ parts }: { readonly parts: readonly SentencePart[] }) =>
  parts.map((part, index) =>
    part.slot === undefined ? (
      <Fragment key={index}>{part.text}</Fragment>
    ) : (
      <Slot key={index} $isOpen={part.isOpen === true}>
        <FilledText text={part.text} />
      </Slot>
    ),
  );

/** A whole rule to be read. */
export function RuleText({ content, names }: { readonly content: RuleContent; readonly names: RuleNames }) {
  return (
    <>
      When <Parts parts={whenParts(content.when, names)} />
      {content.if.map((condition, index) => (
        <Fragment key={index}>
          {index === 0 ? ', if ' : ' and '}
          <Parts parts={conditionParts(condition, names)} />
        </Fragment>
      ))}
      {content.then.map((then, index) => (
        <Fragment key={index}>
          {index === 0 ? ', ' : index === content.then.length - 1 ? ' and ' : ', '}
          <Parts parts={thenParts(then, names)} />
        </Fragment>
      ))}
      .
    </>
  );
}
