import type { TemplateContent } from '@crew/core';

/** Changes of a template that could not be saved when its page was left. */
export interface KeptDraft {
  /** What they were made to. */
  readonly revision: number;
  readonly content: TemplateContent;
  /** Why they were not saved, as it was said. */
  readonly why: string;
  /** When, as an ISO instant. */
  readonly at: string;
}

const keyOf = (templateId: string, accountId: string): string => `crew-draft-template ${accountId} ${templateId}`;

/** Kept on this device for the one who made them, also when the window is closed. */
export function keepDraft(templateId: string, accountId: string, draft: KeptDraft | null): void {
  try {
    if (draft === null) localStorage.removeItem(keyOf(templateId, accountId));
    else localStorage.setItem(keyOf(templateId, accountId), JSON.stringify(draft));
  } catch {
    // A browser that keeps nothing still shows the warning before the page is left.
  }
}

/** What was kept, or null; what cannot be read any more is nothing. */
export function readDraft(templateId: string, accountId: string): KeptDraft | null {
  try {
    const text = localStorage.getItem(keyOf(templateId, accountId));
    const kept = text === null ? null : (JSON.parse(text) as KeptDraft);
    return kept !== null && Array.isArray(kept.content.tasks) && Array.isArray(kept.content.phases) ? kept : null;
  } catch {
    return null;
  }
}
