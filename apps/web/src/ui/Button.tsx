import { Button as AriaButton, Link as AriaLink, type ButtonProps, type LinkProps } from 'react-aria-components';
import styled, { css } from 'styled-components';

export type ButtonKind = 'primary' | 'plain' | 'quiet' | 'text' | 'danger';

interface Looks {
  readonly kind?: ButtonKind;
  /** In line with the text above and below it: without padding at its sides. */
  readonly isFlush?: boolean;
}

const shape = css<{ $kind: ButtonKind; $isFlush: boolean }>`
  display: inline-flex;
  align-items: center;
  justify-content: center;
  gap: 7px;
  min-height: 28px;
  padding: 3px 11px;
  border-radius: 5px;
  border: 1px solid transparent;
  font-weight: 600;
  font-size: 12.5px;
  line-height: 1.3;
  text-decoration: none;
  white-space: nowrap;
  cursor: pointer;
  transition:
    background 120ms,
    border-color 120ms;
  ${({ $kind }) => KIND[$kind]}
  ${({ $isFlush }) => ($isFlush ? 'padding-inline: 0;' : '')}
  &[data-disabled] {
    opacity: 0.5;
    cursor: default;
  }
`;

const KIND: Readonly<Record<ButtonKind, ReturnType<typeof css>>> = {
  primary: css`
    background: var(--petrol);
    color: var(--on-petrol);
    &[data-hovered] {
      background: color-mix(in srgb, var(--petrol) 88%, var(--ink));
    }
  `,
  plain: css`
    background: var(--panel);
    color: var(--ink);
    border-color: var(--joint);
    &[data-hovered] {
      border-color: var(--ink-2);
    }
  `,
  quiet: css`
    background: transparent;
    color: var(--petrol);
    padding-inline: 6px;
    &[data-hovered] {
      text-decoration: underline;
      text-underline-offset: 3px;
    }
  `,
  /* Within a line of text: as high as a finger needs, without making the line higher. */
  text: css`
    min-height: 24px;
    margin-block: -3px;
    padding: 0;
    border: 0;
    background: transparent;
    color: var(--petrol);
    font-size: inherit;
    text-align: start;
    white-space: normal;
    &[data-hovered] {
      text-decoration: underline;
      text-underline-offset: 3px;
    }
  `,
  danger: css`
    background: var(--panel);
    color: var(--brick);
    border-color: var(--brick);
  `,
};

const StyledButton = styled(AriaButton)<{ $kind: ButtonKind; $isFlush: boolean }>`
  ${shape}
`;
const StyledLink = styled(AriaLink)<{ $kind: ButtonKind; $isFlush: boolean }>`
  ${shape}
`;

/** A button; says by its kind how much it matters. */
export function Button({ kind = 'plain', isFlush = false, ...props }: ButtonProps & Looks) {
  return <StyledButton {...props} $kind={kind} $isFlush={isFlush} />;
}

/** A link that looks like a button. */
export function ButtonLink({ kind = 'plain', isFlush = false, ...props }: LinkProps & Looks) {
  return <StyledLink {...props} $kind={kind} $isFlush={isFlush} />;
}
