import { useParams } from 'react-router';
import { guidePages, type Files } from './guide-page.ts';
import { GuideView } from './GuideView.tsx';

/** Read when the app is built: texts and pictures of the guide come with it. */
const TEXTS: Files = import.meta.glob('../../../../../docs/guide/*.md', { query: '?raw', import: 'default', eager: true });
const PICTURES: Files = import.meta.glob('../../../../../docs/screenshots/*.png', { query: '?url', import: 'default', eager: true });
const PAGES = guidePages(TEXTS, PICTURES);

export function GuideRoute() {
  return <GuideView pages={PAGES} id={useParams()['page']} />;
}
