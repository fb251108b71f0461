import { NativeSelect, TextInput } from '@mantine/core'
import type { DriveWish } from '../api/client'
import { driveSize } from '../words'

type Props = {
  bay: string
  wish: DriveWish
  array: boolean
  /** The other bays of the machine. */
  others: string[]
  onChange: (wish: DriveWish) => void
}

/** How the data comes onto a new drive, and what is done to it once the system runs. */
export function DriveForm({ bay, wish, array, others, onChange }: Props) {
  const setup = wish.setup ?? { initialise: false, grow: false }
  const set = (more: Partial<NonNullable<DriveWish['setup']>>) =>
    onChange({ ...wish, setup: { ...setup, ...more } })
  return (
    <fieldset className="sheet drive-form">
      <legend>
        <b className="mono">{bay}</b> gets {driveSize(wish.drive.size, true)}
      </legend>
      <NativeSelect
        label="The data"
        value={wish.path ?? ''}
        onChange={(e) => onChange({ ...wish, path: (e.target.value || null) as DriveWish['path'] })}
        data={[
          { value: '', label: 'there is none' },
          { value: 'copy-first', label: 'is copied and verified first' },
          { value: 'clean-install', label: 'the system is set up anew' },
          { value: 'left-behind', label: 'stays behind, the customer said so' },
        ]}
      />
      {others.length > 0 && (
        <NativeSelect
          label="The system"
          value={wish.systemFrom ?? ''}
          onChange={(e) => onChange({ ...wish, systemFrom: e.target.value || null })}
          data={[
            { value: '', label: 'stays in its bay' },
            ...others.map((b) => ({ value: b, label: `comes here from ${b}` })),
          ]}
        />
      )}
      {wish.path === 'left-behind' && (
        <TextInput
          label="Who said so, and how"
          value={wish.word ?? ''}
          onChange={(e) => onChange({ ...wish, word: e.target.value || null })}
        />
      )}
      {array && (
        <TextInput
          label="What the array says now"
          placeholder="healthy, 6 of 6"
          value={wish.arrayState ?? ''}
          onChange={(e) => onChange({ ...wish, arrayState: e.target.value || null })}
        />
      )}
      <TextInput
        label="File system"
        value={setup.fileSystem ?? ''}
        onChange={(e) => set({ fileSystem: e.target.value || null })}
      />
      <TextInput
        label="Label"
        value={setup.label ?? ''}
        onChange={(e) => set({ label: e.target.value || null })}
      />
      <TextInput
        label="Mounted as"
        value={setup.mount ?? ''}
        onChange={(e) => set({ mount: e.target.value || null })}
      />
      <div className="row">
        <label>
          <input
            type="checkbox"
            checked={setup.initialise}
            onChange={(e) => set({ initialise: e.target.checked })}
          />{' '}
          initialise
        </label>
        <label>
          <input type="checkbox" checked={setup.grow} onChange={(e) => set({ grow: e.target.checked })} />{' '}
          grow to full size
        </label>
      </div>
    </fieldset>
  )
}
