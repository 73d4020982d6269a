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
