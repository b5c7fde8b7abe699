/** Orders of the catalogue: by make and model, or what was published last first. */
export const CATALOGUE_SORTS = ['fitment', 'newest'] as const;
export type CatalogueSort = (typeof CATALOGUE_SORTS)[number];
