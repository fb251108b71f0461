import { isMap, isSeq, parseDocument, type Document, type YAMLMap, type YAMLSeq } from 'yaml'

/** Something that has a place on a drawing. */
export type Place =
  | { kind: 'slot'; name: string }
  | { kind: 'bay'; name: string }
  | { kind: 'fastener'; removal: string; group: string; index: number }

/** The file with one place changed; all else, comments too, stays as it was written. */
export function setPlace(yaml: string, place: Place, x: number, y: number): string {
  const file = parseDocument(yaml)
  const point = file.createNode([x, y], { flow: true })
  if (place.kind === 'fastener') {
    const group = named(
      named(file.get('removals'), 'id', place.removal)?.get('fasteners'),
      'group',
      place.group,
    )
    if (!group) return yaml
    const at = group.get('at')
    if (isSeq(at)) {
      while (at.items.length <= place.index) at.items.push(file.createNode([x, y], { flow: true }))
      at.items[place.index] = point
    } else group.set('at', flowOf(file, place.index + 1, x, y))
  } else {
    const list = place.kind === 'slot' ? file.getIn(['memory', 'slots']) : file.get('drives')
    const position = named(list, 'id', place.name)
    if (!position) return yaml
    position.set('at', point)
  }
  return file.toString({ lineWidth: 0, flowCollectionPadding: true })
}

const flowOf = (file: Document, count: number, x: number, y: number) =>
  file.createNode(Array<number[]>(count).fill([x, y]), { flow: true }) as YAMLSeq

function named(list: unknown, key: string, name: string): YAMLMap | undefined {
  return isSeq(list) ? list.items.filter(isMap).find((item) => item.get(key) === name) : undefined
}
