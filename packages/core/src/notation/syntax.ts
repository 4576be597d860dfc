/** The syntax tree of the notation: plain data, with the place of every node in its text. */

export interface TextSpan {
  start: number;
  end: number;
}

export type Comparison = '<' | '<=' | '>' | '>=' | '=' | '!=';
export type Arithmetic = '+' | '-' | '*' | '/';

export type Syntax = TextSpan &
  (
    | { kind: 'number'; value: number; digits: string; unit: string | undefined }
    | { kind: 'truth'; value: boolean }
    | { kind: 'name'; name: string }
    | { kind: 'call'; name: string; args: Syntax[] }
    | { kind: 'negate'; of: Syntax }
    | { kind: 'not'; of: Syntax }
    | { kind: 'arithmetic'; op: Arithmetic; left: Syntax; right: Syntax }
    | { kind: 'compare'; op: Comparison; left: Syntax; right: Syntax }
    | { kind: 'logic'; op: 'and' | 'or'; parts: Syntax[] }
    | { kind: 'within'; of: Syntax; length: Syntax }
    | { kind: 'for'; of: Syntax; length: Syntax }
    | { kind: 'choice'; when: Syntax; then: Syntax; otherwise: Syntax }
  );

/** A tree with its direct parts replaced. */
export function mapParts(node: Syntax, of: (part: Syntax) => Syntax): Syntax {
  switch (node.kind) {
    case 'number':
    case 'truth':
    case 'name':
      return node;
    case 'call':
      return { ...node, args: node.args.map(of) };
    case 'negate':
    case 'not':
      return { ...node, of: of(node.of) };
    case 'within':
    case 'for':
      return { ...node, of: of(node.of), length: of(node.length) };
    case 'arithmetic':
    case 'compare':
      return { ...node, left: of(node.left), right: of(node.right) };
    case 'logic':
      return { ...node, parts: node.parts.map(of) };
    case 'choice':
      return { ...node, when: of(node.when), then: of(node.then), otherwise: of(node.otherwise) };
  }
}

export type SyntaxOf<K extends Syntax['kind']> = Extract<Syntax, { kind: K }>;

/** An effect: a write to a name, or a verb with the words after it. */
export type EffectSyntax = TextSpan &
  (
    | {
        kind: 'write';
        name: string;
        nameSpan: TextSpan;
        op: ':=' | '+=' | '-=';
        value: Syntax;
        keep: boolean;
      }
    | { kind: 'verb'; verb: string; words: (TextSpan & { text: string })[] }
  );
