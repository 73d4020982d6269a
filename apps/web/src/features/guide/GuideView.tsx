import { Link } from 'react-aria-components';
import styled from 'styled-components';
import { Empty, Muted, Page, PageHead, Panel } from '../../ui/layout.tsx';
import { narrow } from '../../ui/tokens.ts';
import type { GuidePage } from './guide-page.ts';

const Columns = styled.div`
  display: grid;
  grid-template-columns: 230px minmax(0, 820px);
  gap: 18px;
  align-items: start;
  ${narrow} {
    grid-template-columns: minmax(0, 1fr);
  }
`;
const Contents = styled.nav`
  ol {
    padding: 8px 0;
  }
  a {
    display: block;
    padding: 6px 14px;
    color: var(--ink);
    text-decoration: none;
    border-left: 3px solid transparent;
  }
  a:hover {
    background: var(--sunk);
  }
  [aria-current] {
    border-color: var(--petrol);
    font-weight: 650;
  }
`;
const Text = styled.article`
  padding: 16px 22px 22px;
  line-height: 1.6;
  font-size: 14.5px;
  h1 {
    font-size: 22px;
    margin-bottom: 8px;
  }
  p,
  ol,
  ul {
    margin: 0 0 12px;
  }
  ol {
    list-style: decimal;
    padding-left: 22px;
  }
  ul {
    list-style: disc;
    padding-left: 22px;
  }
  li {
    margin: 4px 0;
  }
  img {
    max-width: 100%;
    height: auto;
    border: 1px solid var(--line);
    border-radius: 6px;
  }
  code {
    background: var(--sunk);
    border-radius: 3px;
    padding: 0 4px;
  }
`;

interface GuideProps {
  readonly pages: readonly GuidePage[];
  /** The page that is read; the first when left out. */
  readonly id: string | undefined;
}

/** The guide as it stands in docs/guide, read inside the app. */
export function GuideView({ pages, id }: GuideProps) {
  const page = id === undefined ? pages[0] : pages.find((one) => one.id === id);
  return (
    <Page>
      <PageHead>
        <h2>Guide</h2>
        <Muted>how things are done, on one page each</Muted>
      </PageHead>
      <Columns>
        <Panel as="div">
          <Contents aria-label="Pages of the guide">
            <ol>
              {pages.map((one) => (
                <li key={one.id}>
                  <Link href={`/guide/${one.id}`} aria-current={one === page ? 'page' : undefined}>
                    {one.title}
                  </Link>
                </li>
              ))}
            </ol>
          </Contents>
        </Panel>
        <Panel as="div">
          {page === undefined ? (
            <Empty title="There is no such page.">
              <p>Choose one from the list.</p>
            </Empty>
          ) : (
            <Text dangerouslySetInnerHTML={{ __html: page.html }} />
          )}
        </Panel>
      </Columns>
    </Page>
  );
}
