/** Who may do what. The server enforces it; the interface only mirrors it. */
export const ROLES = ['test manager', 'operator', 'reviewer', 'catalogue editor', 'partner shop'] as const;
export type Role = (typeof ROLES)[number];

/** Everyone who works in the house; a partner shop sees only the tests assigned to it. */
export const HOUSE: readonly Role[] = ['test manager', 'operator', 'reviewer', 'catalogue editor'];
export const SIGNED_IN: readonly Role[] = ROLES;
/** Answers for the programme: plans, locks, drafts. */
export const MANAGER: readonly Role[] = ['test manager'];
/** Prepares vehicles and sensors, and writes down what was done on them. */
export const PREPARE: readonly Role[] = ['test manager', 'operator'];
/** Leaves pulls out for a recorded cause. */
export const EXCLUDE: readonly Role[] = ['test manager', 'operator'];
/** Drafts claims; the same person never approves them. */
export const DRAFT: readonly Role[] = ['test manager', 'reviewer'];
export const REVIEW: readonly Role[] = ['reviewer'];
/** Takes a claim off the shelf, and reads the audit trail. */
export const OVERSEE: readonly Role[] = ['test manager', 'reviewer'];
/** Capture pulls and air readings. */
export const CAPTURE: readonly Role[] = ['test manager', 'operator', 'partner shop'];
/** Takes over into the shop what was published, went stale or was withdrawn. */
export const SHELF: readonly Role[] = ['catalogue editor'];
/** Registers evidence from before Evidentia. */
export const LEGACY: readonly Role[] = ['test manager', 'catalogue editor'];
export const SHELF_READ: readonly Role[] = ['test manager', 'reviewer', 'catalogue editor'];
