import type { IsoDay } from '@crew/core';
import { lazy, Suspense, useState } from 'react';
import { Dialog, DialogTrigger } from 'react-aria-components';
import styled from 'styled-components';
import { dayWords } from '../words/format.ts';
import { parseDayWords } from '../words/parse-day.ts';
import { Button } from './Button.tsx';
import { Field, PopoverPanel, type FieldProps } from './Field.tsx';

/** The month to choose from comes when it is opened. */
const Month = lazy(() => import('./Month.tsx').then((module) => ({ default: module.Month })));

interface DayFieldProps extends Pick<
  FieldProps,
  'label' | 'aria-label' | 'error' | 'isTight' | 'placeholder' | 'isDisabled' | 'autoFocus'
> {
  /** An ISO day, or '' for none. */
  readonly value: IsoDay | '';
  readonly onChange: (day: IsoDay | '') => void;
  readonly today: IsoDay;
}

/** A day, typed as people write it or chosen from a month; shown in words. */
export function DayField({ value, onChange, today, error, placeholder = 'e.g. 14 Dec', ...props }: DayFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  const isUnread = typed !== null && typed.trim() !== '' && parseDayWords(typed, today) === null;
  const [isLeft, setLeft] = useState(false);
  const change = (text: string): void => {
    setTyped(text);
    setLeft(false);
    const day = text.trim() === '' ? '' : parseDayWords(text, today);
    if (day !== null && day !== value) onChange(day);
  };
  const leave = (): void => {
    setLeft(true);
    if (!isUnread) setTyped(null);
  };
  const choose = (day: IsoDay): void => {
    setTyped(null);
    onChange(day);
  };
  const shown = value === '' ? '' : value === today ? 'Today' : dayWords(value, today);
  const ownError = isUnread && isLeft ? 'This is not a date. Write it like 14 Dec or 2026-12-14.' : undefined;
  return (
    <Field
      {...props}
      placeholder={placeholder}
      value={typed ?? shown}
      onChange={change}
      onBlur={leave}
      error={error ?? ownError}
      button={<MonthButton value={value} today={today} isDisabled={props.isDisabled === true} onChoose={choose} />}
    />
  );
}

const MonthDialog = styled(Dialog)`
  padding: 6px;
  outline: none;
`;
/** As large as the month, so that nothing moves when it comes. */
const MonthPlace = styled.div`
  width: 240px;
  height: 236px;
`;

interface MonthButtonProps extends Pick<DayFieldProps, 'value' | 'today'> {
  readonly isDisabled: boolean;
  readonly onChoose: (day: IsoDay) => void;
}

function MonthButton({ value, today, isDisabled, onChoose }: MonthButtonProps) {
  return (
    <DialogTrigger>
      <Button kind="quiet" aria-label="Open calendar" isDisabled={isDisabled}>
        <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" fill="none" stroke="currentColor" strokeWidth="1.4">
          <rect x="1.2" y="2.4" width="11.6" height="10.4" rx="1.6" />
          <path d="M1.2 5.6 H12.8 M4.4 0.8 V3.4 M9.6 0.8 V3.4" />
        </svg>
      </Button>
      <PopoverPanel $isWhole>
        <MonthDialog aria-label="Choose a day">
          {({ close }) => (
            <Suspense fallback={<MonthPlace />}>
              <Month
                value={value}
                today={today}
                onChoose={(day) => {
                  onChoose(day);
                  close();
                }}
              />
            </Suspense>
          )}
        </MonthDialog>
      </PopoverPanel>
    </DialogTrigger>
  );
}
