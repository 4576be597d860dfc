/**
 * Whether an `If-Match` header names an entity tag (RFC 9110, 13.1.1): `*` names any; weak tags never match, for a save
 * must replace exactly what was read.
 */
export function ifMatchNames(header: string, etag: string): boolean {
  return header.trim() === '*' || tagsOf(header).includes(etag);
}

/** Whether an `If-None-Match` header names an entity tag (RFC 9110, 13.1.2), weak or not. */
export function ifNoneMatchNames(header: string, etag: string): boolean {
  const strong = (tag: string): string => tag.replace(/^W\//, '');
  return header.trim() === '*' || tagsOf(header).map(strong).includes(strong(etag));
}

const tagsOf = (header: string): string[] => header.match(/(?:W\/)?"[^"]*"/g) ?? [];
