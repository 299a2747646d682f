import type { BaseQueryFn, EndpointBuilder, FetchArgs, FetchBaseQueryError, FetchBaseQueryMeta } from '@reduxjs/toolkit/query/react'
import type { DocumentList, Stored, UpdateAnswer, UpdateRequest, VersionSummary } from '@fulgor/core/api'

type Ask = BaseQueryFn<string | FetchArgs, unknown, FetchBaseQueryError, object, FetchBaseQueryMeta>

/** Documents that a list fetches at a time. */
const PAGE = 100

export interface ListQuery {
  readonly search?: string
  readonly tag?: string
  readonly sort?: 'name' | 'updated'
  /** Only what uses this of the Kit. */
  readonly uses?: string
  /** What lies in the bin. */
  readonly deleted?: 'true'
}

/**
 * What the page can ask and tell of one kind of document.
 * @param path below `/api/`
 * @param listed tag of everything that shows the list
 * @param versioned tag of everything that shows versions
 */
export function documentEndpoints<T, S, Tags extends string>(
  build: EndpointBuilder<Ask, Tags, 'api'>,
  path: string,
  listed: Tags,
  versioned: Tags,
) {
  return {
    list: build.query<DocumentList<S>, ListQuery & { limit?: number }>({
      query: (params) => ({ url: `/${path}`, params }),
      providesTags: [listed],
    }),
    /** The shelf or the bin, page by page. */
    pages: build.infiniteQuery<DocumentList<S>, ListQuery, string | null>({
      infiniteQueryOptions: { initialPageParam: null, getNextPageParam: (last) => last.next },
      query: ({ queryArg, pageParam }) => ({
        url: `/${path}`,
        params: { ...queryArg, limit: PAGE, ...(pageParam === null ? {} : { after: pageParam }) },
      }),
      providesTags: [listed],
    }),
    beside: build.query<{ readonly id: string }, { id: string; step: number }>({
      query: ({ id, step }) => ({ url: `/${path}/${id}/beside`, params: { step } }),
      keepUnusedDataFor: 0,
    }),
    one: build.query<Stored<T, S>, string>({ query: (id) => `/${path}/${id}`, keepUnusedDataFor: 0 }),
    create: build.mutation<Stored<T, S>, T>({
      query: (document) => ({ url: `/${path}`, method: 'POST', body: { document } }),
      invalidatesTags: [listed],
    }),
    update: build.mutation<UpdateAnswer, { id: string } & UpdateRequest<T>>({
      query: ({ id, ...body }) => ({ url: `/${path}/${id}`, method: 'PUT', body }),
      invalidatesTags: (answer) => (answer ? [listed, versioned] : []),
    }),
    remove: build.mutation<null, string>({
      query: (id) => ({ url: `/${path}/${id}`, method: 'DELETE' }),
      invalidatesTags: [listed],
    }),
    restore: build.mutation<Stored<T, S>, string>({
      query: (id) => ({ url: `/${path}/${id}/restore`, method: 'POST' }),
      invalidatesTags: [listed],
    }),
    versions: build.query<readonly VersionSummary[], string>({ query: (id) => `/${path}/${id}/versions`, providesTags: [versioned] }),
    version: build.query<VersionSummary & { readonly document: T }, { id: string; number: number }>({
      query: ({ id, number }) => `/${path}/${id}/versions/${number}`,
    }),
  }
}
