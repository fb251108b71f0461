import type { BoardPoint } from '../api/client'

// A guide gives places as shares of the part, 0 to 1 from its upper left corner. Here they become units of a drawing.

/** The drawing's own width and height. */
export const across = 400
export const down = 260

/** Room left between the edge of the plate and the outermost place. */
export const boardMargin = 20
export const coverMargin = 24

/** Where a place lies on a drawing with this margin. */
export const placed = (at: BoardPoint, margin: number): BoardPoint => ({
  x: margin + at.x * (across - 2 * margin),
  y: margin + at.y * (down - 2 * margin),
})

export const shift = (at: BoardPoint, margin: number) => {
  const { x, y } = placed(at, margin)
  return `translate(${x} ${y})`
}

/** The place under the pointer, rounded to hundredths and kept on the part. */
export function pressed(
  event: { clientX: number; clientY: number },
  box: DOMRect,
  margin: number,
): BoardPoint {
  const share = (pixels: number, size: number, units: number) => {
    const place = ((pixels / size) * units - margin) / (units - 2 * margin)
    return Math.round(Math.min(1, Math.max(0, place)) * 100) / 100
  }
  return {
    x: share(event.clientX - box.left, box.width, across),
    y: share(event.clientY - box.top, box.height, down),
  }
}
