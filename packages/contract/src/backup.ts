import * as z from 'zod';

const names = z.array(z.string());

/** What became of the documents in a backup, by their names. */
export const importedBackupSchema = z.object({
  added: names.describe('were not here before'),
  continued: names.describe('had the beginning here, and got the revisions that came after'),
  known: names.describe('had as much here, or more'),
  beside: names.describe('went another way here, and were put beside under an id of their own'),
});

export type ImportedBackup = z.infer<typeof importedBackupSchema>;
