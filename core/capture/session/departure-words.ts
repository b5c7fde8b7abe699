import type { Departure } from './next-place.ts';

/**
 * A departure from the run sheet as it reads on the bench and in a finding.
 * @param armLabel what people call an arm; its key where nobody says
 */
export function departureText(d: Departure, armLabel: (key: string) => string = (key) => key): string {
  switch (d.kind) {
    case 'order':
      return `${d.label} was made after ${d.before}`;
    case 'extra':
      return `an extra pull was made (place ${d.order}, ${armLabel(d.arm)})`;
    case 'aborted':
      return `${d.label ?? 'an extra pull'} was aborted (place ${d.order})`;
    case 'incomplete':
      return `the recording of ${d.label ?? 'an extra pull'} is not whole (place ${d.order})`;
    case 'other arm':
      return `${d.label} was made with ${armLabel(d.arm)} on the car, planned with ${armLabel(d.planned)}`;
    case 'strapped anew':
      return `the car was strapped down anew before ${d.label}`;
    case 'not strapped anew':
      return `the car was not strapped down anew before ${d.label}, although planned`;
    case 'not made':
      return `${d.label} was passed over${d.counted ? '' : ' (warm-up)'}`;
  }
}
