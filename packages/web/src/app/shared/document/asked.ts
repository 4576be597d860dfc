import { type Finding, type Question, questionOf, QUESTIONS } from '@glenmark/core/findings';

/** How many findings answer a question, those that were accepted left out. */
export interface Asked {
  question: Question;
  count: number;
  label: string;
  tone: 'ok' | 'doubt' | 'bad';
}

/** The three questions, and what looks risky; what is only untidy waits in Findings. */
const ASKED = (Object.keys(QUESTIONS) as Question[]).filter((question) => question !== 'tidy');

/** What the bar and the shelf count. */
export const askedOf = (findings: readonly Finding[]): Asked[] =>
  ASKED.map((question) => {
    const count = findings.filter((f) => f.accepted === undefined && questionOf(f.code) === question).length;
    const isDoubtful = question === 'agree' || question === 'risky';
    return {
      question,
      count,
      label: QUESTIONS[question].toLowerCase(),
      tone: count === 0 ? 'ok' : isDoubtful ? 'doubt' : 'bad',
    };
  });
