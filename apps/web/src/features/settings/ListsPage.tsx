import { Columns } from './parts.tsx';
import { LabelsPanel } from './LabelsPanel.tsx';
import { RolesPanel } from './RolesPanel.tsx';
import { SettingsTabs } from './SettingsTabs.tsx';
import { StatusesPanel } from './StatusesPanel.tsx';
import { Page, PageHead } from '../../ui/layout.tsx';

/** The agency's roles, labels and statuses. */
export function ListsPage() {
  return (
    <Page>
      <PageHead>
        <h1>Settings</h1>
        <SettingsTabs shown="/settings/lists" />
      </PageHead>
      <Columns>
        <RolesPanel />
        <div>
          <LabelsPanel />
          <StatusesPanel />
        </div>
      </Columns>
    </Page>
  );
}
