/** What a claim names, for tests of its words: a panel filter on one car. */
import { claimSubject } from '../plan/subject.ts';
import type { ClaimFacts } from './claim.ts';

export const MADE_FACTS: ClaimFacts = {
  subject: claimSubject({
    scope: 'part alone',
    differences: [{ subject: 'intake', from: 'stock', to: 'Panel filter' }],
    label: 'part',
    against: null,
  }),
  product: true,
  notAsSold: null,
  fitment: 'Oriel Tern',
  vehicle: 'SV-1',
  fuel: '95 RON',
  calibration: 'stock',
  gear: '4th',
  dyno: 'Cell 1',
};
