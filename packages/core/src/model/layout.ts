import { Lexer } from 'yaml';

/**
 * A document that was printed anew, with what the printer does not keep: comments at the ends of lines are as far out as in
 * the text before, lists between brackets have spaces inside them only where they had, and lines end as they did.
 */
export function laidOutAs(before: string, after: string): string {
  const old = tokensOf(before);
  const gaps = gapsOf(old);
  const isTight = old.some((token, i) => token === '[' && !/^\s/.test(old[i + 1] ?? ''));
  let result = '';
  let line = '';
  for (const token of tokensOf(after)) {
    const gap = token.startsWith('#') ? gaps.get(token)?.shift() : undefined;
    if (gap !== undefined) {
      // The printer puts some comments on a line of their own.
      if (line.trim() === '') [line, result] = [result.trimEnd(), ''];
      line = line.trimEnd() + gap + token;
    } else if (isTight && token === ']' && /[^\s[]\s*$/.test(line)) line = line.trimEnd() + token;
    else if (isTight && /^ +$/.test(token) && line.endsWith('[')) continue;
    else line += token;
    if (token.includes('\n')) [result, line] = [result + line, ''];
  }
  const printed = result + line;
  return before.includes('\r\n') ? printed.replace(/\r?\n/g, '\r\n') : printed;
}

/** The pieces of a text, without the characters by which the lexer marks where something begins. */
const tokensOf = (text: string): string[] =>
  // eslint-disable-next-line no-control-regex -- these are the marks
  [...new Lexer().lex(text)].filter((token) => !/^[\u0002\u0018\u001f\ufeff]$/.test(token));

/** The spaces before each comment that stands behind something on its line, by the comment. */
function gapsOf(tokens: readonly string[]): Map<string, string[]> {
  const gaps = new Map<string, string[]>();
  let isLineEmpty = true;
  tokens.forEach((token, i) => {
    if (token.startsWith('#')) {
      if (!isLineEmpty) gaps.set(token, [...(gaps.get(token) ?? []), tokens[i - 1] ?? ' ']);
    } else if (/\S/.test(token)) isLineEmpty = false;
    if (token.includes('\n')) isLineEmpty = true;
  });
  return gaps;
}
