import { validationMetadatasToSchemas } from 'class-validator-jsonschema'
import { presetSchema } from '@fulgor/core/preset'
import '../assets/dto'
import '../presets/dto'
import '../responses/dto'

type Json = Record<string, unknown>

/** OpenAPI 3.1 description of the API; bodies and queries come from the DTOs, documents from the preset's JSON Schema. */
export function openApi(): Json {
  const preset = presetSchema()
  const dto = validationMetadatasToSchemas({
    refPointerPrefix: '#/components/schemas/',
    additionalConverters: { isPresetDocument: () => ({ $ref: '#/components/schemas/Preset' }) },
  }) as Record<string, { properties?: Record<string, Json>; required?: string[] }>
  const query = (name: string) =>
    Object.entries(dto[name].properties ?? {}).map(([key, schema]) => ({
      name: key,
      in: 'query',
      required: dto[name].required?.includes(key) ?? false,
      schema,
    }))
  const path = (name: string) =>
    Object.entries(dto[name].properties ?? {}).map(([key, schema]) => ({ name: key, in: 'path', required: true, schema }))
  const body = (name: string) => ({ required: true, content: { 'application/json': { schema: { $ref: `#/components/schemas/${name}` } } } })
  const answer = (description: string, schema?: Json) => ({
    description,
    ...(schema ? { content: { 'application/json': { schema } } } : {}),
  })
  const error = answer('What was wrong, in one sentence, and the fields it is about.', { $ref: '#/components/schemas/Error' })
  const operation = (summary: string, ok: Json, rest: Json = {}) => ({ summary, responses: { ...ok, default: error }, ...rest })
  const stored: Json = {
    type: 'object',
    required: ['id', 'revision', 'document'],
    properties: { id: { type: 'string' }, revision: { type: 'integer' }, document: { $ref: '#/components/schemas/Preset' } },
  }
  return {
    openapi: '3.1.0',
    info: { title: 'Fulgor', version: '1', description: 'Presets, their versions, and the player’s dry riffs.' },
    paths: {
      '/api/presets': {
        get: operation(
          'List and search presets',
          { 200: answer('A page of presets, their number, and all tags.') },
          { parameters: query('ListPresetsDto') },
        ),
        post: operation(
          'Put a preset on the shelf',
          { 201: answer('The stored preset.', stored) },
          { requestBody: body('CreatePresetDto') },
        ),
      },
      '/api/presets/{id}': {
        parameters: path('PresetIdDto'),
        get: operation('A preset with its last saved version', { 200: answer('The preset.', stored) }),
        put: operation(
          'Store an edit; refused when somebody else wrote since baseRevision',
          { 200: answer('The new revision.'), 409: answer('Changed elsewhere; carries the stored preset.') },
          { requestBody: body('UpdatePresetDto') },
        ),
        delete: operation('Take a preset off the shelf', { 204: answer('Done; restore brings it back.') }),
      },
      '/api/presets/{id}/restore': {
        parameters: path('PresetIdDto'),
        post: operation('Bring a deleted preset back', { 200: answer('The preset.', stored) }),
      },
      '/api/presets/{id}/beside': {
        parameters: path('BesideDto'),
        get: operation('The preset so many places further in the order of names', { 200: answer('Its id.') }),
      },
      '/api/presets/{id}/versions': {
        parameters: path('PresetIdDto'),
        get: operation('Versions, newest first', { 200: answer('The versions.') }),
      },
      '/api/presets/{id}/versions/{number}': {
        parameters: path('VersionDto'),
        get: operation('One version whole', { 200: answer('The version.') }),
      },
      '/api/assets': {
        get: operation(
          'The player’s dry riffs, or takes of a device',
          { 200: answer('The recordings.') },
          { parameters: query('AssetKindDto') },
        ),
        post: operation(
          'Keep a WAV',
          { 201: answer('The stored recording.') },
          {
            parameters: query('UploadDto'),
            requestBody: { required: true, content: { 'audio/wav': { schema: { type: 'string', format: 'binary' } } } },
          },
        ),
      },
      '/api/assets/{hash}': { parameters: path('AssetHashDto'), get: operation('A WAV as it was given', { 200: answer('The file.') }) },
      '/api/responses': {
        get: operation('The player’s impulse responses with what was read of each', { 200: answer('All of them.') }),
        post: operation(
          'Take impulse responses; what cannot be read is named with its reason, equal samples are taken once',
          { 201: answer('What became of each file.') },
          {
            requestBody: {
              required: true,
              content: {
                'multipart/form-data': {
                  schema: {
                    type: 'object',
                    required: ['paths', 'files'],
                    properties: {
                      paths: { type: 'string', description: 'JSON array: the path of each file, in their order.' },
                      files: { type: 'array', items: { type: 'string', format: 'binary' } },
                    },
                  },
                },
              },
            },
          },
        ),
        patch: operation('Mark favourites, add or remove a tag', { 204: answer('Done.') }, { requestBody: body('ChangeResponsesDto') }),
      },
      '/api/responses/remove': {
        post: operation(
          'Take responses off the list',
          { 204: answer('Done; restore brings them back.') },
          { requestBody: body('ChooseResponsesDto') },
        ),
      },
      '/api/responses/restore': {
        post: operation('Bring responses back', { 204: answer('Done.') }, { requestBody: body('ChooseResponsesDto') }),
      },
      '/api/responses/{hash}': {
        parameters: path('ResponseHashDto'),
        get: operation('An impulse response as it was given', { 200: answer('The file.') }),
      },
      '/api/schema/preset.json': { get: operation('JSON Schema of a preset', { 200: answer('The schema.') }) },
      '/api/health': { get: operation('Is the server up', { 200: answer('It is.') }) },
    },
    components: {
      schemas: {
        ...dto,
        Preset: preset,
        Error: {
          type: 'object',
          required: ['error'],
          properties: {
            error: {
              type: 'object',
              required: ['message', 'fields'],
              properties: {
                message: { type: 'string' },
                fields: { type: 'array', items: { type: 'object', properties: { field: { type: 'string' }, reason: { type: 'string' } } } },
              },
            },
          },
        },
      },
    },
  }
}
