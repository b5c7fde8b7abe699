/** What anyone may ask: apart from the rest, so that readers of the catalogue fetch no more than they need. */
import type {
  CatalogueFitment,
  CataloguePage,
  CatalogueQuery,
  Evidence,
} from '../../contract/publish/claim.ts';
import type { Corrections, CorrectionsQuery } from '../../contract/publish/corrections.ts';
import { api } from './api.ts';
import { pageParams, paging } from './paging.tsx';
import { handChecked } from './hand-checked.ts';

const publicApi = api.injectEndpoints({
  endpoints: (build) => ({
    catalogue: build.infiniteQuery<CataloguePage, Omit<CatalogueQuery, 'after' | 'limit'>, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/catalogue', params: pageParams(queryArg, pageParam) }),
      responseSchema: handChecked<CataloguePage>({ items: 'list', total: 'number' }),
      providesTags: ['Catalogue'],
    }),
    corrections: build.infiniteQuery<Corrections, Omit<CorrectionsQuery, 'after' | 'limit'>, string>({
      infiniteQueryOptions: paging,
      query: ({ queryArg, pageParam }) => ({ url: '/corrections', params: pageParams(queryArg, pageParam) }),
      responseSchema: handChecked<Corrections>({ items: 'list', total: 'number' }),
      providesTags: ['Catalogue'],
    }),
    catalogueFitment: build.query<CatalogueFitment, string>({
      query: (slug) => `/catalogue/${slug}`,
      responseSchema: handChecked<CatalogueFitment>({ name: 'text', claims: 'list', former: 'list' }),
      providesTags: ['Catalogue'],
    }),
    evidence: build.query<Evidence, string>({
      query: (code) => `/evidence/${code}/page`,
      responseSchema: handChecked<Evidence>({
        claim: 'record',
        analysis: 'record',
        result: 'record',
        pulls: 'list',
      }),
      providesTags: ['Catalogue'],
    }),
  }),
});
export const {
  useCorrectionsInfiniteQuery,
  useCatalogueInfiniteQuery,
  useCatalogueFitmentQuery,
  useEvidenceQuery,
} = publicApi;
