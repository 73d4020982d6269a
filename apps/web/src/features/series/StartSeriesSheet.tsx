import { Trouble } from '../../ui/text.tsx';
import { performOrThrow } from '../../session/perform.ts';
import type { SeriesKind, SeriesPlaces, SeriesView } from '@crew/contract';
import type { Carry } from '@crew/core';
import { useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useClients, useTemplates } from '../../api/queries.ts';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Segmented } from '../../ui/Segmented.tsx';
import { Sheet } from '../../ui/Sheet.tsx';
import { SmallForm } from '../../ui/SmallForm.tsx';
import { dayWords, parseHours } from '../../words/format.ts';
import { RuleEditor, useRuleDraft } from './RuleEditor.tsx';
import { CARRY_WORDS } from './series-words.ts';
import { nextMonday } from './use-rhythm-try.ts';

interface Form {
  readonly kind: SeriesKind;
  readonly name: string;
  readonly unitName: string;
  readonly clientId: string | null;
  readonly templateId: string | null;
  readonly firstDay: string;
  readonly places: SeriesPlaces;
  /** Hours as typed; nothing agreed when empty. */
  readonly hours: string;
  readonly carry: Carry;
}

/** What each is called unless somebody says otherwise. */
const unitNameFor = ({ kind, name }: Pick<Form, 'kind' | 'name'>): string =>
  name.trim() === '' ? '' : kind === 'line' ? `${name.trim()} {n}` : `${name.trim()}, {month}`;

/** Begins something that repeats: what, for whom, how often, how many hours each. */
export function StartSeriesSheet({ today, onClose }: { readonly today: string; readonly onClose: () => void }) {
  const [search] = useSearchParams();
  const [form, setForm] = useState<Form>({
    ...{ kind: 'repeating', unitName: '', places: 'start', hours: '', carry: 'none', firstDay: nextMonday(today) },
    ...{ name: search.get('name') ?? '', clientId: search.get('client'), templateId: search.get('template') },
  });
  const set = (more: Partial<Form>): void => setForm({ ...form, ...more });
  const { data: clients } = useClients();
  const { data: templates } = useTemplates();
  const editing = useRuleDraft({ rule: null, onClosed: 'after', day: form.firstDay });
  const navigate = useNavigate();
  const minutes = form.hours.trim() === '' ? null : parseHours(form.hours);
  const isWrong = form.hours.trim() !== '' && minutes === null;
  const isReady =
    form.name.trim() !== '' &&
    form.clientId !== null &&
    form.templateId !== null &&
    form.firstDay !== '' &&
    editing.rule !== null &&
    !isWrong;
  const start = async (): Promise<void> => {
    const { kind, clientId, templateId, firstDay, places, carry } = form;
    const unitName = form.unitName.trim() === '' ? unitNameFor(form) : form.unitName.trim();
    const terms = kind === 'repeating' && minutes !== null ? { retainerMinutes: minutes, carry } : {};
    const body = {
      kind,
      name: form.name.trim(),
      unitName,
      clientId,
      templateId,
      firstDay,
      places,
      rule: editing.rule,
      onClosed: editing.onClosed,
      ...terms,
    };
    const series = await performOrThrow({
      send: () => call<SeriesView>('POST', '/series', body),
      said: ({ name, units: [first] }) =>
        `“${name}” repeats. ${first === undefined ? '' : `The first one starts ${dayWords(first.start, today)}.`}`,
    });
    await navigate(`/engagements/repeating/${series.id}`);
  };
  return (
    <Sheet label="Let something repeat" line="Its first ones are made at once" onClose={onClose}>
      <h2 style={{ fontSize: 17, marginBottom: 10 }}>Let something repeat</h2>
      <SmallForm action="Let it repeat" isReady={isReady} onSubmit={start}>
        {(trouble) => (
          <div style={{ display: 'flex', flexDirection: 'column', gap: 9, marginBottom: 12 }}>
            <Segmented
              label="What repeats"
              parts={[
                { id: 'repeating', name: 'An engagement' },
                { id: 'line', name: 'A production line' },
              ]}
              value={form.kind}
              onChange={(kind) => set({ kind })}
            />
            <Field
              label="Name"
              isTight
              value={form.name}
              onChange={(name) => set({ name })}
              placeholder={form.kind === 'line' ? 'e.g. Gallery talks' : 'e.g. Monthly care'}
            />
            <Choose
              label="Client"
              isTight
              placeholder="Choose the client"
              choices={clients?.map(({ id, name }) => ({ id, name }))}
              value={form.clientId}
              onChange={(clientId) => set({ clientId })}
            />
            <Choose
              label="Template of each"
              isTight
              placeholder="Choose what is done each time"
              choices={templates?.filter((template) => template.kind === 'engagement').map(({ id, name }) => ({ id, name }))}
              value={form.templateId}
              onChange={(templateId) => set({ templateId })}
            />
            <Field
              label="Each is called"
              isTight
              value={form.unitName}
              onChange={(unitName) => set({ unitName })}
              placeholder={unitNameFor(form) || '{n} is its number, {month} its month'}
            />
            <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 8 }}>
              <DayField label="From" isTight today={today} value={form.firstDay} onChange={(firstDay) => set({ firstDay })} />
              <Choose
                label="On its day each"
                isTight
                choices={[
                  { id: 'start', name: 'starts' },
                  { id: 'promise', name: 'is to be finished' },
                ]}
                value={form.places}
                onChange={(places) => set({ places: places as SeriesPlaces })}
              />
            </div>
            <RuleEditor editing={editing} from={form.firstDay === '' ? today : form.firstDay} today={today} lasting="somebody stops it" />
            {form.kind === 'line' ? null : (
              <div style={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 8 }}>
                <Field
                  label="Agreed hours each"
                  isTight
                  inputMode="decimal"
                  value={form.hours}
                  onChange={(hours) => set({ hours })}
                  placeholder="none"
                  {...(isWrong ? { error: 'Write hours as 8 or 7:30.' } : {})}
                />
                <Choose
                  label="Hours left"
                  isTight
                  choices={(Object.keys(CARRY_WORDS) as Carry[]).map((id) => ({ id, name: CARRY_WORDS[id] }))}
                  value={form.carry}
                  onChange={(carry) => set({ carry: carry as Carry })}
                />
              </div>
            )}
            <Trouble words={trouble} />
          </div>
        )}
      </SmallForm>
    </Sheet>
  );
}
