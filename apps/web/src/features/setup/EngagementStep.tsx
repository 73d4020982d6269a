import { useTemplates } from '../../api/queries.ts';
import styled from 'styled-components';
import { ButtonLink } from '../../ui/Button.tsx';
import { Empty, ErrorNote, Loading, Muted, Push } from '../../ui/layout.tsx';
import { count, hourWords } from '../../words/format.ts';

const List = styled.ul`
  margin-bottom: 14px;
  li {
    display: flex;
    align-items: center;
    flex-wrap: wrap;
    gap: 4px 12px;
    padding: 8px 0;
    border-top: 1px solid var(--line-2);
  }
`;

/** Which template the first engagement starts from; client, day and people are asked where it is started. */
export function EngagementStep() {
  const { data: templates, error } = useTemplates();
  const offered = templates?.filter(({ kind }) => kind === 'engagement');
  return (
    <>
      <h2>What are you working on right now?</h2>
      <p>Choose its template. You add the client and the first day next, and see every task with its date before anything is made.</p>
      {error ? (
        <ErrorNote error={error} />
      ) : offered === undefined ? (
        <Loading rows={6} />
      ) : offered.length === 0 ? (
        <Empty title="No templates yet.">
          <p>An engagement starts from a template.</p>
          <ButtonLink kind="primary" href="/settings/set-up/templates">
            Choose templates
          </ButtonLink>
        </Empty>
      ) : (
        <List aria-label="Templates">
          {offered.map(({ id, name, phases, taskCount, effortMinutes }) => (
            <li key={id}>
              <strong>{name}</strong>
              <Muted>
                {count(phases.length, 'phase')} · {count(taskCount, 'task')} · {hourWords(effortMinutes)}
              </Muted>
              <Push />
              <ButtonLink href={`/engagements/start?template=${id}`} aria-label={`Start: ${name}`}>
                Start…
              </ButtonLink>
            </li>
          ))}
        </List>
      )}
      <ButtonLink kind="quiet" href="/desk">
        Skip
      </ButtonLink>
    </>
  );
}
