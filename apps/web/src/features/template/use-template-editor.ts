import type { TemplateContent, TemplateFault } from '@crew/core';
import type { TemplateContentView } from '@crew/contract';
import { useCallback, useEffect, useRef, useState } from 'react';
import { mutate } from 'swr';
import { ApiError, call, currentOf, troubleWords } from '../../api/client.ts';
import { useWho } from '../../session/session.tsx';
import { notify } from '../../ui/toasts.tsx';
import type { Edit } from './content.ts';
import { keepDraft, readDraft, type KeptDraft } from './kept-draft.ts';

/** A burst of typing is saved once. */
const QUIET_MS = 350;

/** How the working copy stands to what is saved. */
export type Saving =
  | { readonly kind: 'saved' }
  | { readonly kind: 'saving' }
  /** Something is wrong with it: it stays here, unsaved, until that is put right. */
  | { readonly kind: 'faulty'; readonly message: string; readonly faults: readonly TemplateFault[] }
  /** Somebody else saved in between: both are there, one is chosen. */
  | { readonly kind: 'met'; readonly theirs: TemplateContentView }
  | { readonly kind: 'lost'; readonly message: string };

export interface TemplateEditor {
  readonly view: TemplateContentView;
  readonly content: TemplateContent;
  readonly saving: Saving;
  readonly edit: (edit: Edit) => void;
  /** Undoes the last step; null when there is none. */
  readonly undo: (() => void) | null;
  readonly keepMine: () => void;
  readonly keepTheirs: () => void;
  /** Goes on from what was changed and saved elsewhere on the page. */
  readonly adopt: (view: TemplateContentView) => void;
  readonly keepVersion: (note: string) => Promise<boolean>;
  /** What was left unsaved on this device, until it is gone on with or discarded. */
  readonly draft: KeptDraft | null;
  /** Goes on with it: over another revision both are there, and one is chosen. */
  readonly resumeDraft: () => void;
  readonly discardDraft: () => void;
}

interface Working {
  readonly view: TemplateContentView;
  readonly content: TemplateContent;
  readonly past: readonly TemplateContent[];
  readonly saving: Saving;
}

/** The working copy of a template: shown at once, saved behind it, whole. */
export function useTemplateEditor(loaded: TemplateContentView): TemplateEditor {
  const { working, latest, set, save, change } = useWorkingCopy(loaded);
  const { draft, forget } = useKeptDraft(loaded, { working, latest });
  const { view, content, past, saving } = working;
  const adopt = (saved: TemplateContentView): void => set({ view: saved, content: saved.content, past: [], saving: { kind: 'saved' } });
  return {
    view,
    content,
    saving,
    adopt,
    draft,
    discardDraft: forget,
    resumeDraft: () => {
      if (draft === null) return;
      forget();
      if (draft.revision === view.revision) change(draft.content, [content]);
      else set({ ...latest.current, content: draft.content, past: [content], saving: { kind: 'met', theirs: view } });
    },
    edit: (edit) => {
      const next = edit(latest.current.content);
      if (next !== latest.current.content) change(next, [...latest.current.past.slice(-49), latest.current.content]);
    },
    undo: past.length === 0 ? null : () => change(past.at(-1) as TemplateContent, past.slice(0, -1)),
    keepMine: () => {
      if (saving.kind !== 'met') return;
      set({ ...latest.current, view: saving.theirs, saving: { kind: 'saving' } });
      void save();
    },
    keepTheirs: () => (saving.kind === 'met' ? adopt(saving.theirs) : undefined),
    keepVersion: async (note) => {
      try {
        const kept = await call<TemplateContentView>('POST', `/templates/${loaded.id}/versions`, { revision: view.revision, note });
        set({ ...latest.current, view: kept });
        void mutate((key) => typeof key === 'string' && key.startsWith('/templates'));
        return true;
      } catch (error) {
        set({ ...latest.current, saving: troubleOf(error) });
        return false;
      }
    },
  };
}

/** Why what is shown is not saved, in words; null when it is, or is on its way. */
function unsavedWhy(saving: Saving): string | null {
  if (saving.kind === 'faulty' || saving.kind === 'lost') return saving.message;
  return saving.kind === 'met' ? 'Somebody else changed it meanwhile.' : null;
}

/** Whoever leaves changes that could not be saved is warned and told why; the changes are kept, and offered when the template is opened again. */
function useKeptDraft(
  loaded: TemplateContentView,
  { working, latest }: { readonly working: Working; readonly latest: { readonly current: Working } },
): { readonly draft: KeptDraft | null; readonly forget: () => void } {
  const me = useWho().personId ?? '';
  const [draft, setDraft] = useState<KeptDraft | null>(() => {
    const kept = readDraft(loaded.id, me);
    return kept === null || isDeepEqual(kept.content, loaded.content) ? null : kept;
  });
  const why = unsavedWhy(working.saving);
  const { content, view } = working;
  const isUnsaved = useRef(false);
  const { kind } = working.saving;
  useEffect(() => {
    if (why === null) {
      // Saved after all: there is nothing left to go on with.
      if (kind === 'saved' && isUnsaved.current) keepDraft(loaded.id, me, null);
      isUnsaved.current &&= kind !== 'saved';
      return undefined;
    }
    isUnsaved.current = true;
    keepDraft(loaded.id, me, { revision: view.revision, content, why, at: new Date().toISOString() });
    const warn = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  }, [why, kind, content, view.revision, loaded.id, me]);
  useEffect(
    () => () => {
      const left = unsavedWhy(latest.current.saving);
      if (left !== null)
        notify(`“${latest.current.content.name}” is not saved: ${left} Your changes are kept on this device; open it again to go on.`, {
          tone: 'trouble',
        });
    },
    [latest],
  );
  const forget = (): void => {
    keepDraft(loaded.id, me, null);
    setDraft(null);
  };
  return { draft, forget };
}

const isDeepEqual = (one: TemplateContent, other: TemplateContent): boolean => JSON.stringify(one) === JSON.stringify(other);

/** What is typed and its saving. One save is under way at a time; what is typed meanwhile goes with the next. */
function useWorkingCopy(loaded: TemplateContentView) {
  const [working, setWorking] = useState<Working>({ view: loaded, content: loaded.content, past: [], saving: { kind: 'saved' } });
  const latest = useRef(working);
  const isBusy = useRef(false);
  const timer = useRef<ReturnType<typeof setTimeout> | undefined>(undefined);
  const set = useCallback((next: Working): void => {
    latest.current = next;
    setWorking(next);
  }, []);
  const save = useCallback(async (): Promise<void> => {
    if (isBusy.current) return;
    isBusy.current = true;
    try {
      for (let sent: TemplateContent | null = null; sent !== latest.current.content;) {
        sent = latest.current.content;
        const { revision } = latest.current.view;
        const view = await call<TemplateContentView>('PUT', `/templates/${loaded.id}/content`, { revision, content: sent });
        set({ ...latest.current, view, saving: { kind: latest.current.content === sent ? 'saved' : 'saving' } });
      }
      void mutate((key) => typeof key === 'string' && (key === '/templates' || key.startsWith(`/templates/${loaded.id}?`)));
    } catch (error) {
      set({ ...latest.current, saving: troubleOf(error) });
    } finally {
      isBusy.current = false;
    }
  }, [loaded.id, set]);
  const change = useCallback(
    (content: TemplateContent, past: readonly TemplateContent[]): void => {
      set({ ...latest.current, content, past, saving: { kind: 'saving' } });
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(), QUIET_MS);
    },
    [save, set],
  );
  useEffect(() => {
    // What was typed last is saved even when the page is left at once.
    return () => {
      clearTimeout(timer.current);
      if (latest.current.saving.kind === 'saving') void save();
    };
  }, [save]);
  return { working, latest, set, save, change };
}

function troubleOf(error: unknown): Saving {
  const theirs = currentOf<TemplateContentView>(error);
  if (theirs !== null) return { kind: 'met', theirs };
  if (error instanceof ApiError && error.code !== 'no-connection' && error.code !== 'internal-fault') {
    const faults = (error.details as { faults?: readonly TemplateFault[] } | undefined)?.faults;
    return { kind: 'faulty', message: error.message, faults: faults ?? [{ at: error.field ?? '', message: error.message }] };
  }
  return { kind: 'lost', message: troubleWords(error) };
}
