import type { components } from '@/api/schema'

type Schemas = components['schemas']
/** What belongs to places of a picture, and the color that it gets: `Required` once it is here. */
export type Thing = Schemas['PointedObject']
export type Stroke = Schemas['BrushStroke']
export type Place = Schemas['PicturePlace']
export type Frame = Schemas['Region']
/** A part of a picture that goes its own way. */
export type Part = Schemas['PicturePart']
export type Headline = Schemas['HeadlineRoom']
/** What a press does: it adds a place, or brushes what belongs or does not. */
export type Press = 'place' | 'adds' | 'takes'

const within = (value: number, most = 1) => Math.min(Math.max(value, 0), most)
/** Places are told to a tenth of a thousandth, a fraction of a pixel of what is seen. */
const fine = (value: number) => Math.round(value * 10_000) / 10_000

/** Where a pointer is in a picture, as parts of its width and height. */
export function inPicture(event: { clientX: number; clientY: number }, picture: HTMLElement): Place {
  const box = picture.getBoundingClientRect()
  return { x: fine(within((event.clientX - box.x) / box.width)), y: fine(within((event.clientY - box.y) / box.height)) }
}

/** A place some steps away. */
export function stepped(place: Place, [across, down]: [number, number], by: number): Place {
  return { x: fine(within(place.x + across * by)), y: fine(within(place.y + down * by)) }
}

const LEAST = 0.04
/** The frame between two places; nothing where it is too small to be meant. */
export function between(one: Place, other: Place): Frame | undefined {
  const [left, top] = [Math.min(one.x, other.x), Math.min(one.y, other.y)]
  const [width, height] = [fine(Math.abs(one.x - other.x)), fine(Math.abs(one.y - other.y))]
  return Math.min(width, height) < LEAST / 4 || Math.max(width, height) < LEAST ? undefined : { left, top, width, height }
}
/** A frame moved, or with its far corner moved, by parts of the picture. */
export function movedFrame(frame: Frame, x: number, y: number, sized: boolean): Frame {
  return sized
    ? {
        ...frame,
        width: fine(Math.max(within(frame.width + x, 1 - frame.left), LEAST)),
        height: fine(Math.max(within(frame.height + y, 1 - frame.top), LEAST)),
      }
    : { ...frame, left: fine(within(frame.left + x, 1 - frame.width)), top: fine(within(frame.top + y, 1 - frame.height)) }
}
