import { createApi, fetchBaseQuery } from '@reduxjs/toolkit/query/react'
import type {
  ApiError,
  PresetList,
  ResponseAsset,
  RiffAsset,
  StoredPreset,
  UpdateAnswer,
  UpdateRequest,
  VersionSummary,
} from '@fulgor/core/api'
import type { Preset } from '@fulgor/core/preset'
import type { Draft } from 'immer'
import { KEPT_AT } from '../offline/keeping'
import { serverAway, serverBack, type ConnectionState } from '../state/connection'

const ask = fetchBaseQuery({ baseUrl: '/api', timeout: 8_000 })

/** Tells whether the server itself has answered, or what this browser kept of it. */
const asked: typeof ask = async (args, store, options) => {
  const answer = await ask(args, store, options)
  const keptAt = answer.meta?.response?.headers.get(KEPT_AT)
  const state = store.getState() as { readonly connection: ConnectionState }
  if (keptAt) store.dispatch(serverAway(Number(keptAt)))
  else if (answer.error && isAway(answer.error)) store.dispatch(serverAway(null))
  else if (state.connection.away) store.dispatch(serverBack())
  return answer
}

/** Presets that a list fetches at a time. */
const PRESET_PAGE = 100

interface ShelfQuery {
  readonly search?: string
  readonly tag?: string
  readonly sort?: 'name' | 'updated'
  readonly deleted?: 'true'
}

export const api = createApi({
  reducerPath: 'api',
  baseQuery: asked,
  tagTypes: ['Shelf', 'Versions', 'Riffs', 'Responses'],
  endpoints: (build) => ({
    presets: build.query<PresetList, ShelfQuery & { limit?: number }>({
      query: (params) => ({ url: '/presets', params }),
      providesTags: ['Shelf'],
    }),
    /** The shelf or the bin, page by page. */
    presetPages: build.infiniteQuery<PresetList, ShelfQuery, number>({
      infiniteQueryOptions: {
        initialPageParam: 0,
        getNextPageParam: (last, _pages, offset) => (offset + last.presets.length < last.total ? offset + last.presets.length : undefined),
      },
      query: ({ queryArg, pageParam }) => ({ url: '/presets', params: { ...queryArg, limit: PRESET_PAGE, offset: pageParam } }),
      providesTags: ['Shelf'],
    }),
    besidePreset: build.query<{ readonly id: string }, { id: string; step: number }>({
      query: ({ id, step }) => ({ url: `/presets/${id}/beside`, params: { step } }),
      keepUnusedDataFor: 0,
    }),
    preset: build.query<StoredPreset, string>({ query: (id) => `/presets/${id}`, keepUnusedDataFor: 0 }),
    createPreset: build.mutation<StoredPreset, Preset>({
      query: (document) => ({ url: '/presets', method: 'POST', body: { document } }),
      invalidatesTags: ['Shelf'],
    }),
    updatePreset: build.mutation<UpdateAnswer, { id: string } & UpdateRequest>({
      query: ({ id, ...body }) => ({ url: `/presets/${id}`, method: 'PUT', body }),
      invalidatesTags: (answer) => (answer ? ['Shelf', 'Versions'] : []),
    }),
    deletePreset: build.mutation<null, string>({
      query: (id) => ({ url: `/presets/${id}`, method: 'DELETE' }),
      invalidatesTags: ['Shelf'],
    }),
    restorePreset: build.mutation<StoredPreset, string>({
      query: (id) => ({ url: `/presets/${id}/restore`, method: 'POST' }),
      invalidatesTags: ['Shelf'],
    }),
    versions: build.query<readonly VersionSummary[], string>({ query: (id) => `/presets/${id}/versions`, providesTags: ['Versions'] }),
    version: build.query<VersionSummary & { document: Preset }, { id: string; number: number }>({
      query: ({ id, number }) => `/presets/${id}/versions/${number}`,
    }),
    riffs: build.query<readonly RiffAsset[], undefined>({ query: () => '/assets', providesTags: ['Riffs'] }),
    responses: build.query<readonly ResponseAsset[], undefined>({ query: () => '/responses', providesTags: ['Responses'] }),
    changeResponses: build.mutation<null, { hashes: readonly string[]; favourite?: boolean; addTag?: string; removeTag?: string }>({
      query: (body) => ({ url: '/responses', method: 'PATCH', body }),
      // the list shows it at once, and again as it was should the server refuse
      async onQueryStarted({ hashes, favourite, addTag, removeTag }, { dispatch, queryFulfilled }) {
        const chosen = new Set(hashes)
        const patch = dispatch(
          api.util.updateQueryData('responses', undefined, (all) => {
            for (const response of all as Draft<ResponseAsset>[]) {
              if (!chosen.has(response.hash)) continue
              if (favourite !== undefined) response.favourite = favourite
              const kept = response.tags.filter((t) => t !== removeTag && t !== addTag)
              response.tags = addTag === undefined ? kept : [...kept, addTag]
            }
          }),
        )
        await queryFulfilled.catch(() => patch.undo())
      },
    }),
    removeResponses: build.mutation<null, readonly string[]>({
      query: (hashes) => ({ url: '/responses/remove', method: 'POST', body: { hashes } }),
      invalidatesTags: ['Responses'],
    }),
    restoreResponses: build.mutation<null, readonly string[]>({
      query: (hashes) => ({ url: '/responses/restore', method: 'POST', body: { hashes } }),
      invalidatesTags: ['Responses'],
    }),
    uploadTake: build.mutation<RiffAsset, { name: string; bytes: Uint8Array<ArrayBuffer> }>({
      query: ({ name, bytes }) => ({
        url: '/assets',
        method: 'POST',
        params: { name: name.slice(0, 120), kind: 'take' },
        body: new Blob([bytes], { type: 'audio/wav' }),
        headers: { 'Content-Type': 'audio/wav' },
        timeout: 120_000,
      }),
    }),
    uploadRiff: build.mutation<RiffAsset, File>({
      query: (file) => ({
        url: '/assets',
        method: 'POST',
        params: { name: file.name.slice(0, 120) },
        body: file,
        headers: { 'Content-Type': 'audio/wav' },
        timeout: 120_000,
      }),
      invalidatesTags: ['Riffs'],
    }),
  }),
})

export const {
  usePresetsQuery,
  useLazyPresetQuery,
  usePresetPagesInfiniteQuery,
  useCreatePresetMutation,
  useVersionsQuery,
  useLazyVersionQuery,
  useResponsesQuery,
  useChangeResponsesMutation,
  useRemoveResponsesMutation,
  useRestoreResponsesMutation,
  useRiffsQuery,
  useUploadRiffMutation,
  useUploadTakeMutation,
} = api

/** True when the server did not answer at all. */
export const isAway = (error: unknown): boolean =>
  typeof error === 'object' && error !== null && 'status' in error && (error.status === 'FETCH_ERROR' || error.status === 'TIMEOUT_ERROR')

/** One sentence for the player from whatever a request failed with. */
export function sentenceOf(error: unknown): string {
  if (typeof error === 'object' && error !== null && 'status' in error) {
    if (isAway(error)) return 'The Fulgor server does not answer. Your edits are kept in this browser and sent when it is back.'
    const data = 'data' in error ? (error.data as Partial<ApiError> | undefined) : undefined
    if (data?.error?.message) return data.error.message
  }
  return error instanceof Error ? error.message : 'The request failed.'
}
