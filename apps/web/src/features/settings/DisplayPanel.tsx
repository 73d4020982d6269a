import { useState } from 'react';
import styled from 'styled-components';
import { mutate } from 'swr';
import { call } from '../../api/client.ts';
import { perform } from '../../session/perform.ts';
import { Button } from '../../ui/Button.tsx';
import { keptRows, keptTheme, setRows, wearTheme, type Rows, type Theme } from '../../session/display.ts';
import { DATE_LANGUAGES, keptDateLanguage, setDateLanguage } from '../../session/date-language.ts';
import { useWho } from '../../session/session.tsx';
import { Choose } from '../../ui/Field.tsx';
import { Panel, PanelBody, PanelHead, Muted } from '../../ui/layout.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { dayWords } from '../../words/format.ts';

const THEMES: readonly { readonly id: Theme; readonly name: string }[] = [
  { id: 'system', name: 'Match system' },
  { id: 'light', name: 'Light' },
  { id: 'dark', name: 'Dark' },
];

const ROWS: readonly { readonly id: Rows; readonly name: string }[] = [
  { id: 'dense', name: 'Compact rows' },
  { id: 'roomy', name: 'Comfortable rows' },
];

const Choices = styled.div`
  display: grid;
  gap: 12px;
  justify-items: start;
`;

/** How things look on this device. */
export function DisplayPanel() {
  const { today } = useWho();
  const [theme, setTheme] = useState(keptTheme);
  const [rows, setShownRows] = useState(keptRows);
  const [language, setLanguage] = useState(keptDateLanguage);
  return (
    <Panel aria-label="Display">
      <PanelHead>
        <h2>Display</h2>
        <Muted>on this device</Muted>
      </PanelHead>
      <PanelBody>
        <Choices>
          <Segmented
            label="Theme"
            parts={THEMES}
            value={theme}
            onChange={(next) => {
              wearTheme(next);
              setTheme(next);
            }}
          />
          <Segmented
            label="Rows of lists"
            parts={ROWS}
            value={rows}
            onChange={(next) => {
              setRows(next);
              setShownRows(next);
            }}
          />
          <Choose
            label="Language of dates"
            isTight
            choices={DATE_LANGUAGES}
            value={language}
            onChange={(next) => {
              setDateLanguage(next);
              setLanguage(next);
            }}
          />
          <Muted>Dates read like {dayWords('2026-12-17', today)}.</Muted>
          <HintsAgain />
        </Choices>
      </PanelBody>
    </Panel>
  );
}

/** Hints and lists that were closed come back. */
function HintsAgain() {
  const { closedHints } = useWho();
  if (closedHints.length === 0) return null;
  const show = async (): Promise<void> => {
    const { isDone } = await perform({ send: () => call('DELETE', '/account/hints'), said: 'Hints are shown again.' });
    if (isDone) await mutate('/session');
  };
  return <Button onPress={() => void show()}>Show hints again</Button>;
}
