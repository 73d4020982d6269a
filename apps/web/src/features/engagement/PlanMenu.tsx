import { perform, performOrThrow } from '../../session/perform.ts';
import { SaveBack, type EngagementPlan, type SavedBack } from '@crew/contract';
import { useRef, useState } from 'react';
import { Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { FormDialog, SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { type PLAN_SHEETS, type OnOpenSheet } from './plan-sheets.ts';
import { reopening } from './CloseSheet.tsx';

const Item = styled(MenuItem)`
  padding: 6px 10px;
  border-radius: 5px;
  cursor: pointer;
  outline: none;
  &[data-focused] {
    background: var(--petrol-soft);
  }
  small {
    display: block;
    color: var(--ink-2);
    font-size: 12px;
  }
`;

type EntryId = Exclude<(typeof PLAN_SHEETS.named)[number], 'forecast'> | 'reopen' | 'copy' | 'series' | 'repeat' | 'keep' | 'baseline';

interface Entry {
  readonly id: EntryId;
  readonly name: string;
  /** Whether it asks something more before it is done. */
  readonly asks?: boolean;
  readonly detail: string;
}

/** Completing, closing and reopening. */
function endings(state: EngagementPlan['engagement']['state']): readonly (Entry | null)[] {
  if (state === 'finished') return [{ id: 'reopen', name: 'Reopen', detail: 'continues in its last phase' }];
  if (state === 'dropped') return [{ id: 'reopen', name: 'Reopen', detail: 'continues where it stopped' }];
  return [
    state === 'open' ? { id: 'complete', name: 'Complete engagement', asks: true, detail: 'ends what is still running today' } : null,
    { id: 'close', name: 'Close without finishing', asks: true, detail: 'not a fit, or the client said no' },
  ];
}

/** What can be done with an engagement as it stands. */
function entriesFor({ state, template, series }: EngagementPlan['engagement']): readonly Entry[] {
  const isBehind = template !== null && template.newest > template.version;
  const behind = `version ${template?.newest ?? ''}, made from version ${template?.version ?? ''}`;
  const again: Entry | null =
    series !== null
      ? { id: 'series', name: `All of ${series.name}`, detail: 'the repeating work it belongs to' }
      : template !== null
        ? { id: 'repeat', name: 'Repeat this engagement', asks: true, detail: 'same template, on a schedule' }
        : null;
  const entries: readonly (Entry | null)[] = [
    isBehind ? { id: 'news', name: 'Template updates', detail: behind } : null,
    { id: 'about', name: 'Engagement details', asks: true, detail: 'name, lead, contact, promised date' },
    { id: 'history', name: 'History', detail: 'who changed what, and undo' },
    ...endings(state),
    state === 'finished' || state === 'dropped'
      ? null
      : {
          id: 'library',
          name: 'Add phases from library',
          asks: true,
          detail: 'such as an accessibility check, after any phase',
        },
    { id: 'copy', name: 'Duplicate', asks: true, detail: 'same work, new dates' },
    again,
    { id: 'keep', name: 'Save as template', asks: true, detail: 'the whole engagement or one phase' },
    state === 'dropped' ? null : { id: 'baseline', name: 'Save as baseline', detail: 'later changes are measured against it' },
  ];
  return entries.filter((entry) => entry !== null);
}

interface MenuProps {
  readonly plan: EngagementPlan;
  readonly onOpen: OnOpenSheet;
}

/** What is done with a whole plan, now and then. */
export function PlanMenu({ plan, onOpen }: MenuProps) {
  const [isSaving, setSaving] = useState(false);
  const place = useRef<HTMLSpanElement>(null);
  const { engagement } = plan;
  const navigate = useNavigate();
  const act = (key: EntryId): void => {
    switch (key) {
      case 'reopen':
        return void perform(reopening(engagement, engagement.version));
      case 'keep':
        return setSaving(true);
      case 'copy':
        return void navigate(`/engagements/start?copyOf=${engagement.id}`);
      case 'series':
        return void navigate(`/engagements/repeating/${engagement.series?.id ?? ''}`);
      case 'repeat':
        return void navigate(repeatAddress(engagement));
      case 'baseline':
        return void keepBaseline(engagement.id);
      default:
        return onOpen({ kind: key });
    }
  };
  return (
    <>
      <MenuTrigger>
        <span ref={place}>
          <Button aria-label="More actions">⋯</Button>
        </span>
        <PopoverPanel>
          <Menu aria-label="This engagement" items={entriesFor(engagement)} onAction={(key) => act(key as EntryId)}>
            {({ id, name, asks, detail }) => (
              <Item id={id} textValue={name}>
                {name}
                {asks ? '…' : ''}
                <small>{detail}</small>
              </Item>
            )}
          </Menu>
        </PopoverPanel>
      </MenuTrigger>
      <SavePopover triggerRef={place} isOpen={isSaving} onOpenChange={setSaving}>
        <FormDialog $width={320} aria-label="Save as template">
          <SaveBackForm plan={plan} onClose={() => setSaving(false)} />
        </FormDialog>
      </SavePopover>
    </>
  );
}

/** Where repeating work is started, with the fields this engagement can fill in. */
const repeatAddress = ({ name, template }: EngagementPlan['engagement']): string =>
  `/engagements/repeating?${new URLSearchParams({ show: 'start', name, template: template?.id ?? '' }).toString()}`;

const SavePopover = styled(Popover)`
  background: var(--panel);
  border: 1px solid var(--joint);
  border-radius: 7px;
  box-shadow: 0 6px 22px rgb(10 30 30 / 18%);
`;

const keepBaseline = (id: string): Promise<unknown> =>
  perform({
    send: () => call('POST', `/engagements/${id}/baseline`),
    said: 'Baseline saved. Later changes are measured against it.',
  });

const WHOLE = 'whole';
const savedAs = (name: string): { name: string; part: string; measure: SaveBack['measure'] } => ({ name, part: WHOLE, measure: 'real' });

/** An engagement or one of its phases as a template: days become relative again, people become roles. */
function SaveBackForm({ plan, onClose }: { readonly plan: EngagementPlan; readonly onClose: () => void }) {
  const navigate = useNavigate();
  const form = useInputForm({
    rules: SaveBack,
    typed: savedAs(plan.engagement.name),
    input: ({ name, measure, part }) => ({ name, measure, ...(part === WHOLE ? {} : { phaseId: part }) }),
    send: async (input) => {
      const { id } = await performOrThrow({
        send: () => call<SavedBack>('POST', `/engagements/${plan.engagement.id}/template`, input),
        said: ({ notes }) =>
          `Template “${input.name}” saved. ${notes.length === 0 ? 'All dates could be made relative.' : notes.join(' ')}`,
      });
      onClose();
      await navigate(`/templates/${id}`);
    },
  });
  return (
    <SmallForm form={form} action="Save">
      <Field {...form.bind('name')} label="Name of the template" autoFocus />
      <Choose
        {...form.bind('part')}
        label="Include"
        choices={[{ id: WHOLE, name: 'All phases' }, ...plan.phases.map((phase) => ({ id: phase.id, name: `Only ${phase.name}` }))]}
      />
      <Choose {...form.bind('measure')} label="Effort and length" choices={MEASURES} />
    </SmallForm>
  );
}

const MEASURES = [
  { id: 'real', name: 'as it actually went', detail: 'finished tasks use their logged hours' },
  { id: 'planned', name: 'as it was planned' },
] as const;
