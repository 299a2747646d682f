import { createApi, fetchBaseQuery, QueryStatus } from '@reduxjs/toolkit/query/react'
import type {
  ApiError,
  DeviceSummary,
  GuitarSummary,
  PlaceSummary,
  PresetSummary,
  RecordingSummary,
  ResponseAsset,
  ShowSummary,
  SoundAsset,
} from '@fulgor/core/api'
import type { GuitarDocument } from '@fulgor/core/guitar'
import type { Place } from '@fulgor/core/place'
import type { DeviceDocument, Preset } from '@fulgor/core/preset'
import type { Recording, RecordingUse } from '@fulgor/core/recording'
import type { Show } from '@fulgor/core/show'
import type { Draft } from 'immer'
import { documentEndpoints } from './documents'
import { KEPT_AT } from '../offline/keeping'
import { serverAway, serverBack, type ConnectionState } from './connection'

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

const TAGS = [
  'Shelf',
  'Versions',
  'Guitars',
  'GuitarVersions',
  'Places',
  'PlaceVersions',
  'Recordings',
  'RecordingVersions',
  'Devices',
  'DeviceVersions',
  'Shows',
  'ShowVersions',
  'Responses',
] as const
type Tag = (typeof TAGS)[number]

/** A kind's endpoints under the names that the page calls them by. */
const presetEndpoints = (of: ReturnType<typeof documentEndpoints<Preset, PresetSummary, Tag>>) => ({
  presets: of.list,
  presetPages: of.pages,
  besidePreset: of.beside,
  preset: of.one,
  createPreset: of.create,
  updatePreset: of.update,
  deletePreset: of.remove,
  restorePreset: of.restore,
  versions: of.versions,
  version: of.version,
})

const guitarEndpoints = (of: ReturnType<typeof documentEndpoints<GuitarDocument, GuitarSummary, Tag>>) => ({
  guitars: of.list,
  guitar: of.one,
  createGuitar: of.create,
  updateGuitar: of.update,
  deleteGuitar: of.remove,
  restoreGuitar: of.restore,
})

const placeEndpoints = (of: ReturnType<typeof documentEndpoints<Place, PlaceSummary, Tag>>) => ({
  places: of.list,
  place: of.one,
  createPlace: of.create,
  updatePlace: of.update,
  deletePlace: of.remove,
  restorePlace: of.restore,
})

const recordingEndpoints = (of: ReturnType<typeof documentEndpoints<Recording, RecordingSummary, Tag>>) => ({
  recordings: of.list,
  recording: of.one,
  updateRecording: of.update,
  deleteRecording: of.remove,
  restoreRecording: of.restore,
})

const deviceEndpoints = (of: ReturnType<typeof documentEndpoints<DeviceDocument, DeviceSummary, Tag>>) => ({
  devices: of.list,
  device: of.one,
  createDevice: of.create,
  updateDevice: of.update,
  deleteDevice: of.remove,
  restoreDevice: of.restore,
})

const showEndpoints = (of: ReturnType<typeof documentEndpoints<Show, ShowSummary, Tag>>) => ({
  shows: of.list,
  show: of.one,
  createShow: of.create,
  updateShow: of.update,
  deleteShow: of.remove,
  restoreShow: of.restore,
})

export const api = createApi({
  reducerPath: 'api',
  baseQuery: asked,
  tagTypes: TAGS,
  endpoints: (build) => ({
    ...presetEndpoints(documentEndpoints<Preset, PresetSummary, Tag>(build, 'presets', 'Shelf', 'Versions')),
    ...guitarEndpoints(documentEndpoints<GuitarDocument, GuitarSummary, Tag>(build, 'guitars', 'Guitars', 'GuitarVersions')),
    ...placeEndpoints(documentEndpoints<Place, PlaceSummary, Tag>(build, 'places', 'Places', 'PlaceVersions')),
    ...recordingEndpoints(documentEndpoints<Recording, RecordingSummary, Tag>(build, 'recordings', 'Recordings', 'RecordingVersions')),
    ...deviceEndpoints(documentEndpoints<DeviceDocument, DeviceSummary, Tag>(build, 'devices', 'Devices', 'DeviceVersions')),
    ...showEndpoints(documentEndpoints<Show, ShowSummary, Tag>(build, 'shows', 'Shows', 'ShowVersions')),
    responses: build.query<readonly ResponseAsset[], undefined>({ query: () => '/responses', providesTags: ['Responses'] }),
    changeResponses: build.mutation<null, { hashes: readonly string[]; favourite?: boolean; addTag?: string; removeTag?: string }>({
      query: (body) => ({ url: '/responses', method: 'PATCH', body }),
      // the list shows it at once, and again as it was should the server refuse
      async onQueryStarted({ hashes, favourite, addTag, removeTag }, lifecycle) {
        const { dispatch, queryFulfilled } = lifecycle
        const listed = () => responsesListed(lifecycle.getState() as StateOfApi)
        const before = listed().fulfilledTimeStamp
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
        // an answer that was under way meanwhile may be older than the change, and must not stand
        const now = listed()
        if (now.status === QueryStatus.pending || now.fulfilledTimeStamp !== before) dispatch(api.util.invalidateTags(['Responses']))
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
    uploadTake: build.mutation<SoundAsset, { name: string; bytes: Uint8Array<ArrayBuffer> }>({
      query: ({ name, bytes }) => ({
        url: '/assets',
        method: 'POST',
        params: { name: name.slice(0, 120), kind: 'take' },
        body: new Blob([bytes], { type: 'audio/wav' }),
        headers: { 'Content-Type': 'audio/wav' },
        timeout: 120_000,
      }),
    }),
    /** A WAV for the Kit. */
    uploadRecording: build.mutation<SoundAsset, { file: File; use: RecordingUse }>({
      query: ({ file, use }) => ({
        url: '/assets',
        method: 'POST',
        params: { name: file.name.slice(0, 120), kind: use },
        body: file,
        headers: { 'Content-Type': 'audio/wav' },
        timeout: 600_000,
      }),
      invalidatesTags: ['Recordings'],
    }),
  }),
})

type StateOfApi = Parameters<ReturnType<typeof api.endpoints.responses.select>>[0]
const responsesListed = (state: StateOfApi) => api.endpoints.responses.select(undefined)(state)

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
  useGuitarsQuery,
  useGuitarQuery,
  useLazyGuitarQuery,
  useCreateGuitarMutation,
  useUpdateGuitarMutation,
  useDeleteGuitarMutation,
  useRestoreGuitarMutation,
  usePlacesQuery,
  usePlaceQuery,
  useCreatePlaceMutation,
  useDeletePlaceMutation,
  useRestorePlaceMutation,
  useRecordingsQuery,
  useDeleteRecordingMutation,
  useRestoreRecordingMutation,
  useCreateShowMutation,
  useDeleteShowMutation,
  useRestoreShowMutation,
  useShowsQuery,
  useUploadRecordingMutation,
  useDevicesQuery,
  useDeviceQuery,
  useCreateDeviceMutation,
  useDeleteDeviceMutation,
  useRestoreDeviceMutation,
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
