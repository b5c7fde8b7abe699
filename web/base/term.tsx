import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';

/** What a word of the trade means, in a sentence, for whoever asks. */
const MEANINGS = {
  'degrees of freedom':
    'How many independent repeats a scatter rests on: the fewer there are, the wider an interval has to be.',
  lp: 'A hundred times the natural logarithm of the reading: for small differences one lp is one per cent of it.',
  grade:
    'How much a claim may say: “single” holds for the one vehicle tested, “indicative” is never published.',
  guard:
    'How cautiously scatter that has been seen only a few times is taken: “strict” never leans on one arm being calmer than the other.',
  'critical value':
    'How many standard errors the band reaches to either side so that the whole curve lies in it as often as is promised.',
  band: 'The range in which the true gain lies, over the whole curve at once, as often as the confidence says.',
  mounting: 'One strapping-down of the vehicle on the rollers; doing it anew moves the reading by itself.',
  'drift bound': 'How much the bench may creep from one pull to the next without anybody seeing it.',
  'factor difference':
    'How far the corrections for air of the two arms are apart: ' +
    'the more they are, the more of the gain is the rule’s and not the pulls’.',
} as const;
export type TermName = keyof typeof MEANINGS;

/** A word that explains itself where it stands. */
export function Term({ name, children }: { name: TermName; children?: ReactNode }) {
  return (
    <Popover.Root>
      <Popover.Trigger className="inline min-h-6 cursor-help underline decoration-dotted underline-offset-3">
        {children ?? name}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={4}
          aria-label={`What ${name} means`}
          className="z-[60] max-w-72 rounded-md border border-rule bg-sheet p-3 text-[13px] text-ink shadow-xl"
        >
          {MEANINGS[name]}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
