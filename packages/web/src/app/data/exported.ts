import { dotOf, gridCsv, scxmlOf } from '@glenmark/core/charts';
import { type Language, LANGUAGES, outlineOf, readmeOf } from '@glenmark/core/code';
import { slugOf } from '@glenmark/core/model';
import { movesetReadings } from './readings';

/** What a moveset can be taken out as. */
export type ExportForm = Language['id'] | 'scxml' | 'dot' | 'csv';

export interface ExportedFile {
  name: string;
  text: string;
}

/** A moveset taken out: the file, and for code what to know of it. */
export interface Exported {
  file: ExportedFile;
  notes?: ExportedFile;
}

/** A moveset in another form; undefined when it does not load. */
export function exported(moveset: string, form: ExportForm): Exported | undefined {
  const compiled = movesetReadings.of(moveset);
  const { machine, file } = compiled;
  if (machine === undefined || file === undefined) return undefined;
  const named = (extension: string): string => `${slugOf(machine.name)}.${extension}`;
  if (form === 'scxml') return { file: { name: named('scxml'), text: scxmlOf(file) } };
  if (form === 'dot') return { file: { name: named('dot'), text: dotOf(machine) } };
  if (form === 'csv') return { file: { name: named('csv'), text: gridCsv(machine) } };
  const language = LANGUAGES.find(({ id }) => id === form);
  if (language === undefined) return undefined;
  const outline = outlineOf(compiled);
  const name = language.file(outline);
  return {
    file: { name, text: language.print(outline) },
    notes: { name: `${name}.md`, text: readmeOf(outline, language) },
  };
}
