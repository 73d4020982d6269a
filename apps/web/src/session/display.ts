/** Light, dark, or as the system says; and how tall rows are. Kept on this device. */
export type Theme = 'system' | 'light' | 'dark';

const THEME_KEY = 'crew.theme';

/** The choice kept on this device. */
export function keptTheme(): Theme {
  const kept = localStorage.getItem(THEME_KEY);
  return kept === 'light' || kept === 'dark' ? kept : 'system';
}

/** Puts a theme on and keeps it. */
export function wearTheme(theme: Theme): void {
  if (theme === 'system') delete document.documentElement.dataset['theme'];
  else document.documentElement.dataset['theme'] = theme;
  localStorage.setItem(THEME_KEY, theme);
}

/** How tall the rows of lists are. */
export type Rows = 'dense' | 'roomy';

const ROWS_KEY = 'crew.rows';

/** The choice kept on this device. */
export const keptRows = (): Rows => (localStorage.getItem(ROWS_KEY) === 'roomy' ? 'roomy' : 'dense');

/** Sets the rows and keeps them. */
export function setRows(rows: Rows): void {
  document.documentElement.dataset['rows'] = rows;
  localStorage.setItem(ROWS_KEY, rows);
}
