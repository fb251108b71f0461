// Pictograms drawn for Revtal on a field of 24: what the hand meets, in few strokes.
const pictures: Record<string, string> = {
  power: 'M13 3L6 13h5l-1 8 8-11h-5z',
  static: 'M4 18h16M7 18v-4M12 18V8M17 18v-4M9 5l3 3 3-3',
  heat: 'M7 20c-3-4 3-6 0-10M12 20c-3-5 4-8 0-14M17 20c-3-4 3-6 0-10',
  edge: 'M4 20L20 4M4 20h10M8 12l2 2M12 8l2 2',
  cable: 'M3 12c4-8 6 8 10 0s4 0 5 0M18 9v6M21 9v6',
  latch: 'M6 20V8a4 4 0 018 0M4 20h16M14 8v5h4',
  notch: 'M3 8h18v9h-9v-4h-3v4H3z',
  seal: 'M5 5h14v9l-7 6-7-6zM9 10h6',
  data: 'M4 7c0-4 16-4 16 0v10c0 4-16 4-16 0zM4 7c0 4 16 4 16 0',
  screw: 'M7 4h10v4H7zM12 8v12M9 11l6 2M9 15l6 2M10 19l4 1',
  pad: 'M4 9h16v6H4zM4 19h16M7 9V6M17 9V6',
  glass: 'M4 4h16v16H4zM8 4l4 7-3 3 5 6',
  trap: 'M3 16h18M5 16l3-6 2 6 2-6 2 6 2-6 3 6M12 4v3',
}

/** A warning with its pictogram and kind, above what it warns of. */
export function Precaution({ kind, text }: { kind: string; text: string }) {
  return (
    <p className={kind === 'trap' ? 'precaution trap' : 'precaution'}>
      <svg viewBox="0 0 24 24" aria-hidden="true">
        <path d={pictures[kind] ?? pictures.trap} />
      </svg>
      <b>{kind}</b>
      <span>{text}</span>
    </p>
  )
}
