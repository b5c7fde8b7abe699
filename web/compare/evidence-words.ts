/** What each number of the log is called, and what it cannot show. */
import type { LogEvidence, LogSays } from '../../core/compare/result.ts';

export const SAYS: Record<LogSays, string> = {
  supports: 'goes with it',
  against: 'speaks against it',
  open: 'leaves it open',
};
interface Words {
  readonly name: string;
  readonly cannot: string;
}
export const EVIDENCE_WORDS: Record<LogEvidence['of'], Words> = {
  airflow: {
    name: 'Mass airflow',
    cannot:
      'more air is needed for more power at one mixture; the meter’s own housing can change its reading',
  },
  'fuel flow': {
    name: 'Fuel flow',
    cannot: 'goes with the air at one mixture; a richer arm burns more without more power',
  },
  'inlet pressure': {
    name: 'Pressure before throttle or compressor',
    cannot: 'shows less restriction; not what the engine makes of it',
  },
  'charge temperature': {
    name: 'Temperature of the intake air',
    cannot: 'shows a cooler charge; soak and the order of the pulls move it too',
  },
  'intercooler pressure drop': {
    name: 'Pressure drop over the intercooler',
    cannot: 'needs a gauge on either side; shows less restriction, not cooler air',
  },
  'manifold pressure': {
    name: 'Manifold pressure',
    cannot: 'a control that holds the pressure hides what the part does',
  },
  'drive speed': {
    name: 'Supercharger speed',
    cannot: 'shows the drive ratio; hold it against the most its maker allows',
  },
  'back-pressure': {
    name: 'Exhaust back-pressure',
    cannot: 'shows less restriction where the gauge sits; one gauge does not see pulses',
  },
  'airflow roughness': {
    name: 'Roughness of the airflow signal',
    cannot: 'a rougher signal makes mixture and load wander; says nothing of power',
  },
};
