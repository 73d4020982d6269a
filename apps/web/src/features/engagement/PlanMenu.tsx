import { perform, performOrThrow } from '../../session/perform.ts';
import { SaveBack, type EngagementPlan, type SavedBack } from '@crew/contract';
import { useRef, useState } from 'react';
import { Dialog, Menu, MenuItem, MenuTrigger, Popover } from 'react-aria-components';
import { useNavigate } from 'react-router';
import styled from 'styled-components';
import { call } from '../../api/client.ts';
import { Button } from '../../ui/Button.tsx';
import { Choose, Field, PopoverPanel } from '../../ui/Field.tsx';
import { SmallForm } from '../../ui/form/SmallForm.tsx';
import { useInputForm } from '../../ui/form/use-input-form.ts';
import { PLAN_SHEETS, type OnOpenSheet } from './plan-sheets.ts';
import { reopening } from './AboutSheet.tsx';

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
  const isBehind = engagement.template !== null && engagement.template.newest > engagement.template.version;
  const act = (key: string): void => {
    const kind = PLAN_SHEETS.named.find((named) => named === key);
    if (kind !== undefined) onOpen({ kind });
    else if (key === 'reopen') void perform(reopening(engagement, engagement.version));
    else if (key === 'keep') setSaving(true);
    else if (key === 'copy') void navigate(`/engagements/start?copyOf=${engagement.id}`);
    else if (key === 'series') void navigate(`/engagements/repeating/${engagement.series?.id ?? ''}`);
    else if (key === 'repeat') void navigate(repeatAddress(engagement));
    else void keepBaseline(engagement.id);
  };
  return (
    <>
      <MenuTrigger>
        <span ref={place}>
          <Button aria-label="More for this engagement">⋯</Button>
        </span>
        <PopoverPanel>
          <Menu aria-label="This engagement" onAction={(key) => act(String(key))}>
            {isBehind ? (
              <Item id="news" textValue="What is new in its template">
                What is new in its template
                <small>
                  version {engagement.template?.newest}, this is of version {engagement.template?.version}
                </small>
              </Item>
            ) : null}
            <Item id="about" textValue="Name, promise, lead">
              Name, promise, lead…<small>and how it ends before its time</small>
            </Item>
            <Item id="history" textValue="History">
              History<small>who changed what, and undo</small>
            </Item>
            {engagement.state === 'dropped' ? (
              <Item id="take-up" textValue="Take it up again">
                Take it up again<small>it goes on as it was</small>
              </Item>
            ) : null}
            {engagement.state === 'finished' || engagement.state === 'dropped' ? null : (
              <Item id="library" textValue="Take phases from the library">
                Take phases from the library…<small>an accessibility check, an opening, behind one of its phases</small>
              </Item>
            )}
            <Item id="copy" textValue="Start a copy of it">
              Start a copy of it…<small>the same work again, on days of its own</small>
            </Item>
            {engagement.series !== null ? (
              <Item id="series" textValue="All of its series">
                All of {engagement.series.name}
                <small>it is one of several that repeat</small>
              </Item>
            ) : engagement.template !== null ? (
              <Item id="repeat" textValue="Let such work repeat">
                Let such work repeat…<small>by the same template, again and again</small>
              </Item>
            ) : null}
            <Item id="keep" textValue="Keep it as a template">
              Keep it as a template…<small>all of it, or one phase</small>
            </Item>
            <Item id="baseline" textValue="This is the plan as promised">
              This is the plan as promised<small>later days are measured against it</small>
            </Item>
          </Menu>
        </PopoverPanel>
      </MenuTrigger>
      <SavePopover triggerRef={place} isOpen={isSaving} onOpenChange={setSaving}>
        <Dialog aria-label="Keep it as a template" style={{ outline: 'none', padding: 10, width: 320 }}>
          <SaveBackForm plan={plan} onClose={() => setSaving(false)} />
        </Dialog>
      </SavePopover>
    </>
  );
}

/** Where work like this one is let repeat, with what is known of it filled in. */
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
    said: 'From now on later days are measured against the plan as it stands.',
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
        said: ({ notes }) => `“${input.name}” is kept. ${notes.length === 0 ? 'All days could be made relative.' : notes.join(' ')}`,
      });
      onClose();
      await navigate(`/templates/${id}`);
    },
  });
  return (
    <SmallForm form={form} action="Keep it">
      <Field {...form.bind('name')} label="Name of the template" autoFocus />
      <Choose
        {...form.bind('part')}
        label="Of it"
        choices={[{ id: WHOLE, name: 'All phases' }, ...plan.phases.map((phase) => ({ id: phase.id, name: `Only ${phase.name}` }))]}
      />
      <Choose {...form.bind('measure')} label="Effort and length" choices={MEASURES} />
    </SmallForm>
  );
}

const MEASURES = [
  { id: 'real', name: 'as it really went', detail: 'what is finished brings its logged hours' },
  { id: 'planned', name: 'as it was planned' },
] as const;
