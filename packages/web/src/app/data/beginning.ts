import type { StoredDocument } from '@glenmark/contract';
import type { Api } from './api';
import type { UnsentEdit, UnsentEdits } from './unsent-edits';

/** What a document begins with: as the server has it, or with an edit that had not been sent. */
export type Beginning =
  { stored: StoredDocument; unsent?: UnsentEdit } | { stored?: undefined; unsent: UnsentEdit };

/** What a document needs of the server and of this browser. */
export interface Services {
  api: Pick<Api, 'read' | 'save'>;
  unsent: Pick<UnsentEdits, 'keep' | 'forget'>;
}
