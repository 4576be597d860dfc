import { parseExpression, print, type Expression, type Syntax } from '@glenmark/core/notation';

/** A guard in the few words that fit a cell of the grid: `tuck · speed > 3 m/s`. */
export function shortGuard(guard: Expression | undefined): string {
  return guard === undefined ? $localize`always` : short(guard.syntax);
}

/** The same from text that may not parse; then the text itself. */
export function shortText(text: string): string {
  const parsed = parseExpression(text);
  return parsed.ok ? short(parsed.value) : text;
}

function short(node: Syntax): string {
  switch (node.kind) {
    case 'logic':
      return node.parts
        .map((part) => (part.kind === 'logic' ? `(${short(part)})` : short(part)))
        .join(node.op === 'and' ? ' · ' : ' / ');
    case 'within':
    case 'for':
      return short(node.of);
    case 'not':
      return negated(node.of);
    case 'call':
      return called(node) ?? print(node);
    case 'name':
      return Object.hasOwn(WORDS, node.name) ? WORDS[node.name]! : node.name;
    case 'compare':
      if (node.left.kind === 'name' && node.left.name === 'elapsed') return print(node.right);
      return print(node).replace('<=', '≤').replace('>=', '≥').replace('!=', '≠');
    default:
      return print(node);
  }
}

const WORDS: Record<string, string> = { grounded: $localize`ground`, airborne: $localize`aloft` };

function called(node: Extract<Syntax, { kind: 'call' }>): string | undefined {
  const arg = node.args[0]?.kind === 'name' ? node.args[0].name : '';
  switch (node.name) {
    case 'pressed':
    case 'ready':
      return arg;
    case 'held':
      return $localize`hold ${arg}`;
    case 'released':
      return $localize`let go ${arg}`;
    case 'done':
      return $localize`${arg} up`;
    case 'running':
      return $localize`${arg} on`;
    case 'in':
      return $localize`in ${arg}`;
    case 'fits':
      return $localize`${arg} fits`;
    case 'inside':
      return $localize`inside ${arg}`;
    case 'catches':
      return $localize`${arg} catches`;
    case 'probe':
    case 'unlocked':
      return arg;
    default:
      return undefined;
  }
}

function negated(of: Syntax): string {
  if (of.kind === 'call' && of.name === 'held' && of.args[0]?.kind === 'name')
    return $localize`no ${of.args[0].name}`;
  if (of.kind === 'call' && of.name === 'fits' && of.args[0]?.kind === 'name') return $localize`no room`;
  const inner = short(of);
  return of.kind === 'logic' ? $localize`not (${inner})` : $localize`no ${inner}`;
}
