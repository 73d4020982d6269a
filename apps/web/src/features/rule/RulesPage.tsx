import { can, type RuleLine, type RuleList } from '@crew/contract';
import { useCallback } from 'react';
import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { useRuleChoices, useRules } from '../../api/queries.ts';
import { useOpenSheet } from '../../session/open-sheet.ts';
import { useWho } from '../../session/session.tsx';
import { Button, ButtonLink } from '../../ui/Button.tsx';
import { HandoffTabs } from './HandoffTabs.tsx';
import { Empty, ErrorNote, Loading, Muted, Page, PageHead, Panel, Push, WithSheet } from '../../ui/layout.tsx';
import { HueMark, Tag } from '../../ui/marks.tsx';
import { Note, Toned } from '../../ui/text.tsx';
import { phone } from '../../ui/tokens.ts';
import { count, dayOf, dayWords } from '../../words/format.ts';
import { findingWords, summaryWords } from './rule-words.ts';
import { RuleSheet } from './RuleSheet.tsx';
import { RuleText } from './RuleText.tsx';

const Head = styled.header`
  display: grid;
  grid-template-columns: minmax(0, 1fr) 86px 92px;
  gap: 12px;
  align-items: baseline;
  padding: 12px 14px 8px;
  border-bottom: 1px solid var(--line);
  small {
    font-size: 12px;
    color: var(--ink-2);
    text-align: right;
  }
  section:not(:first-child) > & {
    border-top: 1px solid var(--joint);
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr);
    small {
      display: none;
    }
  }
`;
const Title = styled.h2`
  display: flex;
  align-items: baseline;
  flex-wrap: wrap;
  gap: 4px 9px;
  > :first-child:not(:last-child) {
    align-self: center;
  }
`;
const Row = styled.li<{ $isOpen: boolean; $isOff: boolean }>`
  position: relative;
  display: grid;
  grid-template-columns: minmax(0, 1fr) 86px 92px;
  gap: 4px 12px;
  padding: 9px 14px;
  border-bottom: 1px solid var(--line-2);
  background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'transparent')};
  &:hover {
    background: ${({ $isOpen }) => ($isOpen ? 'var(--petrol-soft)' : 'var(--sunk)')};
  }
  > :nth-child(2),
  > :nth-child(3) {
    text-align: right;
    color: var(--ink-2);
  }
  > :first-child {
    color: ${({ $isOff }) => ($isOff ? 'var(--ink-2)' : 'var(--ink)')};
    max-width: 74ch;
  }
  ${phone} {
    grid-template-columns: minmax(0, 1fr) auto;
    > :first-child {
      grid-column: 1 / -1;
    }
    > :nth-child(2) {
      text-align: left;
    }
  }
`;
const Sentence = styled(Link)`
  color: inherit;
  text-decoration: none;
  overflow-wrap: anywhere;
  &::after {
    content: '';
    position: absolute;
    inset: 0;
  }
`;
const Finding = styled.p`
  grid-column: 1 / -1;
  max-width: 74ch;
  padding: 7px 11px;
  border: 1px solid var(--line);
  border-radius: 6px;
  background: var(--sunk);
  color: var(--ink-2);
  font-size: 12.5px;
`;
const Runs = styled.span`
  ${phone} {
    &::before {
      content: 'Runs in 30 days: ';
    }
  }
`;

const RULE_SHEETS = { things: ['rule'], named: ['new'] } as const;

/** Every rule of the agency, by where it holds; one of them in the sheet beside. */
export function RulesPage() {
  const me = useWho();
  const { data: list, error } = useRules();
  const { data: choices } = useRuleChoices();
  const [sheet, openSheet] = useOpenSheet(RULE_SHEETS);
  const close = useCallback(() => openSheet(null), [openSheet]);
  const rule = sheet?.kind === 'rule' ? (list?.rules.find(({ id }) => id === sheet.id) ?? null) : null;
  const isOpen = sheet !== null && (sheet.kind === 'new' || rule !== null);
  return (
    <Page>
      <PageHead>
        <h1>Rules</h1>
        <HandoffTabs shown="/handoffs/rules" />
        {list === undefined ? null : <Muted>{summaryWords(list)}</Muted>}
        <Push />
        <ButtonLink href="/handoffs/rules/runs">All runs</ButtonLink>
        {can(me, 'rule.edit') ? (
          <Button kind="primary" onPress={() => openSheet({ kind: 'new' })}>
            New rule…
          </Button>
        ) : null}
      </PageHead>
      {error ? <ErrorNote error={error} /> : null}
      {list === undefined ? (
        error ? null : (
          <Loading rows={12} />
        )
      ) : (
        <WithSheet $isOpen={isOpen} $sheet="400px">
          <div>
            <Panel aria-label="Rules">{list.rules.length === 0 ? <NoRules /> : <Groups list={list} chosen={rule?.id ?? null} />}</Panel>
            <Note $isSmall>
              If rules disagree, the engagement’s rule wins, then the template’s, then the agency’s. A rule never triggers itself.
            </Note>
          </div>
          {isOpen ? (
            <RuleSheet
              key={rule?.id ?? 'new'}
              rule={rule}
              list={list}
              choices={choices}
              onClose={close}
              onSaved={(id) => openSheet({ kind: 'rule', id })}
            />
          ) : null}
        </WithSheet>
      )}
    </Page>
  );
}

const NoRules = () => (
  <Empty title="No rules yet.">
    <p>A rule is a sentence: when something happens, the follow-up work is done automatically, and the log says what was done and why.</p>
  </Empty>
);

/** Rules of one place, in their order. */
interface Group {
  readonly key: string;
  readonly first: RuleLine;
  readonly rules: readonly RuleLine[];
}

function groupsOf(rules: readonly RuleLine[]): Group[] {
  const groups = new Map<string, RuleLine[]>();
  for (const rule of rules) {
    const key = `${rule.level} ${rule.template?.id ?? rule.engagement?.id ?? ''}`;
    groups.set(key, [...(groups.get(key) ?? []), rule]);
  }
  return [...groups].map(([key, own]) => ({ key, first: own[0] as RuleLine, rules: own }));
}

function Groups({ list, chosen }: { readonly list: RuleList; readonly chosen: string | null }) {
  return groupsOf(list.rules).map(({ key, first, rules }, index) => (
    <section key={key} aria-label={first.engagement?.name ?? first.template?.name ?? 'Agency'}>
      <Head>
        <GroupTitle rule={first} open={list.openByTemplate[first.template?.id ?? ''] ?? 0} />
        <small>{index === 0 ? 'runs, 30 days' : ''}</small>
        <small>{index === 0 ? 'last run' : ''}</small>
      </Head>
      <ul>
        {rules.map((rule) => (
          <RuleRow key={rule.id} rule={rule} list={list} isOpen={rule.id === chosen} />
        ))}
      </ul>
    </section>
  ));
}

function GroupTitle({ rule: { template, engagement }, open }: { readonly rule: RuleLine; readonly open: number }) {
  if (engagement !== null)
    return (
      <Title>
        <HueMark $hue={engagement.hue} $height={18} />
        {engagement.name} <Muted>{engagement.client}</Muted>
      </Title>
    );
  return (
    <Title>
      <span>{template?.name ?? 'Agency'}</span>
      <Muted>{template === null ? 'applies to every engagement' : `template · applies to ${count(open, 'open engagement')}`}</Muted>
    </Title>
  );
}

function RuleRow({ rule, list, isOpen }: { readonly rule: RuleLine; readonly list: RuleList; readonly isOpen: boolean }) {
  const { today, zone } = useWho();
  const findings = list.findings
    .filter(({ rules }) => (rules as readonly string[]).includes(rule.id))
    .map((finding) => findingWords(finding, rule.id, list))
    .filter((words) => words !== '');
  return (
    <Row $isOpen={isOpen} $isOff={!rule.isOn} aria-current={isOpen ? 'true' : undefined}>
      <div>
        <Sentence href={`/handoffs/rules?rule=${rule.id}`}>
          <RuleText content={rule.content} names={list.names} />
        </Sentence>{' '}
        {rule.isOn ? null : <Tag>off</Tag>}
        {rule.exceptions.length === 0 ? null : <Muted> Off for {rule.exceptions.map(({ name }) => name).join(', ')}.</Muted>}
      </div>
      <Runs>
        {rule.runs === 0 ? 'none' : <strong>{rule.runs}</strong>}
        {rule.failed === 0 ? null : <Toned $tone="bad"> {rule.failed} failed</Toned>}
      </Runs>
      <span>{rule.lastRunAt === null ? 'not yet' : dayWords(dayOf(rule.lastRunAt, zone), today)}</span>
      {findings.map((words) => (
        <Finding key={words}>{words}</Finding>
      ))}
    </Row>
  );
}
