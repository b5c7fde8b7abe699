import type { RevisionInput } from '../../contract/register/register.ts';
import type { FieldGroup } from '../base/record-form.tsx';

/** How a belt drives the head of a supercharger. */
export const DRIVE_FIELDS: FieldGroup<keyof RevisionInput> = {
  title: 'Drive of a supercharger',
  note: 'Only for what a belt drives. With a pulley option in mm, its setting is the pulley on the head.',
  fields: [
    { name: 'driveCrankMm', label: 'Crank pulley, mm', kind: 'number', optional: true, span: 3 },
    { name: 'driveHeadMm', label: 'Head pulley, mm', kind: 'number', optional: true, span: 3 },
    {
      name: 'driveStepUp',
      label: 'Own gearing',
      kind: 'number',
      optional: true,
      span: 3,
      hint: 'turns of the rotor per turn of its pulley; 1 where empty',
    },
    {
      name: 'mostDriveRpm',
      label: 'Most its maker allows, rpm',
      kind: 'number',
      optional: true,
      span: 3,
      hint: 'of the rotor; plans beyond it carry a caution',
    },
  ],
};
