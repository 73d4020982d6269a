import { performOrThrow } from '../../session/perform.ts';
import { StartSeries, type SeriesKind, type SeriesPlaces, type SeriesView } from '@crew/contract';
import { CARRY, type Carry, type IsoDay } from '@crew/core';
import { useNavigate, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { useClients, useTemplates } from '../../api/queries.ts';
import { DayField } from '../../ui/DayField.tsx';
import { Choose, Field } from '../../ui/Field.tsx';
import { Pair } from '../../ui/form/Pair.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { dayTyped, minutesIfTyped } from '../../ui/form/typed.ts';
import { useInputForm, type InputForm } from '../../ui/form/use-input-form.ts';
import { Segmented } from '../../ui/Segmented.tsx';
import { Sheet, SheetTitle } from '../../ui/Sheet.tsx';
import { dayWords } from '../../words/format.ts';
import { RuleEditor, useRuleDraft } from './RuleEditor.tsx';
import { CARRY_WORDS } from './series-words.ts';
import { nextMonday } from './use-rhythm-try.ts';

/** What is typed; hours as typed, nothing agreed when empty. */
interface Typed {
  readonly kind: SeriesKind;
  readonly name: string;
  readonly unitName: string;
  readonly clientId: string | null;
  readonly templateId: string | null;
  readonly firstDay: IsoDay | '';
  readonly places: SeriesPlaces;
  readonly retainerMinutes: string;
  readonly carry: Carry;
}

/** What each is called unless somebody says otherwise. */
const unitNameFor = ({ kind, name }: Pick<Typed, 'kind' | 'name'>): string =>
  name.trim() === '' ? '' : kind === 'line' ? `${name.trim()} {n}` : `${name.trim()}, {month}`;

/** Begins something that repeats: what, for whom, how often, how many hours each. */
export function StartSeriesSheet({ today, onClose }: { readonly today: IsoDay; readonly onClose: () => void }) {
  const { form, editing } = useStartSeries(today);
  const { firstDay } = form.values;
  return (
    <Sheet label="New repeating work" line="The first ones are created now" onClose={onClose}>
      <SheetTitle>New repeating work</SheetTitle>
      <SmallForm form={form} action="Start repeating" gap={9}>
        <WhatRepeats form={form} />
        <Pair>
          <DayField {...form.bind('firstDay')} label="From" isTight today={today} />
          <Choose {...form.bind('places')} label="On its day each" isTight choices={PLACES} />
        </Pair>
        <RuleEditor editing={editing} from={firstDay === '' ? today : firstDay} today={today} lasting="somebody stops it" />
        {form.values.kind === 'line' ? null : (
          <Pair>
            <Field {...form.bind('retainerMinutes')} label="Agreed hours each" isTight inputMode="decimal" placeholder="none" />
            <Choose {...form.bind('carry')} label="Unused hours" isTight choices={CARRY.map((id) => ({ id, name: CARRY_WORDS[id] }))} />
          </Pair>
        )}
      </SmallForm>
    </Sheet>
  );
}

const PLACES = [
  { id: 'start', name: 'starts' },
  { id: 'promise', name: 'is to be finished' },
] as const;

const KINDS = [
  { id: 'repeating', name: 'An engagement' },
  { id: 'line', name: 'A production line' },
] as const;

function useStartSeries(today: IsoDay) {
  const [search] = useSearchParams();
  const navigate = useNavigate();
  const typed: Typed = {
    ...{ kind: 'repeating', unitName: '', places: 'start', retainerMinutes: '', carry: 'none', firstDay: nextMonday(today) },
    ...{ name: search.get('name') ?? '', clientId: search.get('client'), templateId: search.get('template') },
  };
  const editing = useRuleDraft({ rule: null, onClosed: 'after', day: nextMonday(today) });
  const form = useInputForm({
    rules: StartSeries,
    typed,
    input: ({ kind, name, unitName, clientId, templateId, firstDay, places, retainerMinutes, carry }) => ({
      ...{
        kind,
        name: name.trim(),
        unitName: unitName.trim() || unitNameFor({ kind, name }) || undefined,
        firstDay: dayTyped(firstDay),
        places,
        ...editing.input,
      },
      ...{ clientId: clientId ?? undefined, templateId: templateId ?? undefined },
      ...(kind === 'line' || retainerMinutes.trim() === '' ? {} : { retainerMinutes: minutesIfTyped(retainerMinutes), carry }),
    }),
    send: async (input) => {
      const series = await performOrThrow({
        send: () => call<SeriesView>('POST', '/series', input),
        said: ({ name, units: [first] }) =>
          `“${name}” repeats. ${first === undefined ? '' : `The first one starts ${dayWords(first.start, today)}.`}`,
      });
      await navigate(`/engagements/repeating/${series.id}`);
    },
  });
  return { form, editing };
}

/** What repeats, for whom, by which template, and what each is called. */
function WhatRepeats({ form }: { readonly form: InputForm<Typed> }) {
  const { data: clients } = useClients();
  const { data: templates } = useTemplates();
  const isLine = form.values.kind === 'line';
  return (
    <>
      <Segmented {...form.bind('kind')} label="What repeats" parts={KINDS} />
      <Field {...form.bind('name')} label="Name" isTight placeholder={isLine ? 'e.g. Gallery talks' : 'e.g. Monthly care'} />
      <Choose
        {...form.bind('clientId')}
        label="Client"
        isTight
        placeholder="Choose the client"
        choices={clients?.map(({ id, name }) => ({ id, name }))}
      />
      <Choose
        {...form.bind('templateId')}
        label="Template of each"
        isTight
        placeholder="Choose a template"
        choices={templates?.filter((template) => template.kind === 'engagement').map(({ id, name }) => ({ id, name }))}
      />
      <Field
        {...form.bind('unitName')}
        label="Name of each"
        isTight
        placeholder={unitNameFor(form.values) || '{n} is its number, {month} its month'}
      />
    </>
  );
}
