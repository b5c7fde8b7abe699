/** The page of a feedback pack: one file that opens anywhere, without anything from elsewhere. */
import { STANDARD_NAMES, type Standard } from '../../core/base/standards.ts';
import type { FittingFact } from '../../core/publish/feedback.ts';

export interface FeedbackTest {
  readonly number: number;
  readonly fitment: string;
  readonly dyno: string;
  readonly day: string;
  readonly standard: Standard;
  readonly arms: readonly {
    readonly label: string;
    readonly differs: readonly string[];
    readonly result: string;
  }[];
  readonly findings: readonly {
    readonly gate: string;
    readonly state: string;
    readonly message: string;
    readonly mend: string;
  }[];
  readonly fitting: readonly FittingFact[];
  readonly notes: readonly string[];
  readonly pictures: { readonly path: string; readonly caption: string }[];
  readonly files: readonly string[];
  /** Whether its files stay in the house, because of another part in it. */ readonly withheld: boolean;
}
export interface Feedback {
  readonly part: {
    readonly name: string;
    readonly sku: string;
    readonly maker: string;
    readonly category: string;
  };
  readonly revision: string;
  readonly fitting: readonly string[];
  readonly tests: readonly FeedbackTest[];
  /** Whether there are older tests than those told. */ readonly more: boolean;
  readonly made: string;
}

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** A text as it may stand in the page. */
export const safe = (text: string): string => text.replace(/[&<>"]/g, (c) => ENTITIES[c]);
const list = (lines: readonly string[], empty: string): string =>
  lines.length === 0
    ? `<p class="soft">${safe(empty)}</p>`
    : `<ul>${lines.map((line) => `<li>${safe(line)}</li>`).join('')}</ul>`;

const STYLE =
  'body{font:15px/1.5 system-ui,sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem;color:#1b2430}' +
  'h1{font-size:1.5rem}h2{font-size:1.15rem;border-top:2px solid #1b2430;padding-top:.6rem;margin-top:2rem}' +
  'h3{font-size:1rem;margin-bottom:.2rem}.soft{color:#5b6470}img{max-width:100%;display:block;margin:.4rem 0}';

function testPart(test: FeedbackTest): string {
  const findings = test.findings.map(
    ({ gate, state, message, mend }) => `${gate}, ${state}: ${message}${mend ? ` ${mend}` : ''}`,
  );
  return [
    `<h2>Test ${test.number}: ${safe(test.fitment)}</h2>`,
    `<p class="soft">${safe([test.day, test.dyno, STANDARD_NAMES[test.standard]].filter(Boolean).join(' · '))}</p>`,
    ...test.arms.map(
      (arm) =>
        `<h3>${safe(arm.label)}</h3><p>${safe(arm.result)}</p>${list(arm.differs, 'Nothing else differed.')}`,
    ),
    '<h3>What was found</h3>',
    list(findings, 'Every gate passes.'),
    '<h3>Notes</h3>',
    list(test.notes, 'None were written.'),
    ...test.pictures.map(
      ({ path, caption }) =>
        `<figure><img src="${safe(path)}" alt="${safe(caption || 'photograph')}"><figcaption>${safe(caption)}</figcaption></figure>`,
    ),
    test.withheld
      ? '<p class="soft">The files of this session are kept back: another part in it may not be named yet.</p>'
      : `<p>Pulls as the dyno wrote them: ` +
        `${test.files.map((path) => `<a href="${safe(path)}">${safe(path)}</a>`).join(', ') || 'none'}.</p>`,
  ].join('\n');
}

export const feedbackPage = ({ part, revision, fitting, tests, more, made }: Feedback): string =>
  [
    '<!doctype html>',
    `<html lang="en"><head><meta charset="utf-8"><title>Feedback: ${safe(part.name)}</title><style>${STYLE}</style></head><body>`,
    `<h1>${safe(part.name)}, ${safe(part.sku)}</h1>`,
    `<p>${safe(part.maker)} · ${safe(part.category)} · latest revision ${safe(revision)} · made on ${safe(made)}</p>`,
    '<p><b>For the maker of the part.</b> These are measurements with their limits and what was found about them, not ' +
      'claims; what may be said in public stands on the page of the evidence and nowhere else.</p>',
    '<h2>How it fitted</h2>',
    list(fitting, 'Nothing was written down about fitting it.'),
    ...tests.map(testPart),
    tests.length === 0 ? '<p>It was not measured yet.</p>' : '',
    more ? '<p class="soft">Older tests are not in this pack.</p>' : '',
    '</body></html>',
  ].join('\n');
