import { client, form, taken } from './client'
import type { components } from './schema'

export type DropView = components['schemas']['DropView']

/** Bytes of a piece in which a large file is sent. */
export const PIECE = 1024 * 1024

const at = (id: string) => ({ params: { path: { drop_id: id } } })

export const beginDrop = (setId: string, files: number) =>
  taken(client.POST('/api/sets/{set_id}/drops', { params: { path: { set_id: setId } }, body: { files } }))

export const latestDrop = (setId: string) =>
  taken(client.GET('/api/sets/{set_id}/drops/latest', { params: { path: { set_id: setId } } }))

export const getDrop = (id: string) => taken(client.GET('/api/drops/{drop_id}', at(id)))

export const closeDrop = (id: string) => taken(client.POST('/api/drops/{drop_id}/close', at(id)))

export const cancelDrop = (id: string) => taken(client.POST('/api/drops/{drop_id}/cancel', at(id)))

/** Begins sets of other channels with the files of a drop that those take; gives them. */
export const bringLeft = (id: string) => taken(client.POST('/api/drops/{drop_id}/left', at(id)))

/** Puts away what a drop was refused. */
export const forgetRefusals = (id: string) => taken(client.DELETE('/api/drops/{drop_id}/refusals', at(id)))

export const sendFiles = (id: string, body: FormData, signal: AbortSignal) =>
  taken(client.POST('/api/drops/{drop_id}/files', { ...at(id), ...form(body), signal }))

/** Sends one piece of a large file; sent twice, it is kept once. */
export const sendPiece = (id: string, file: File, name: string, offset: number, signal: AbortSignal) =>
  taken(
    client.PUT('/api/drops/{drop_id}/piece', {
      params: { path: { drop_id: id }, query: { name, size: file.size, offset } },
      body: file.slice(offset, offset + PIECE) as never,
      bodySerializer: (body: unknown) => body as Blob,
      headers: { 'content-type': 'application/octet-stream' },
      signal,
    }),
  )
