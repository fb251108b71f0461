import {
  createTheme,
  SegmentedControl,
  type CSSVariablesResolver,
  type MantineColorsTuple,
} from '@mantine/core'

// One colour in all shades: which shade a control takes, the tokens have decided already.
const mat = Array<string>(10).fill('var(--mat)') as unknown as MantineColorsTuple

export const theme = createTheme({
  colors: { mat },
  primaryColor: 'mat',
  fontFamily: 'var(--text)',
  fontFamilyMonospace: 'var(--mono)',
  defaultRadius: 4,
  // Nothing slides: what was pressed is pressed.
  components: { SegmentedControl: SegmentedControl.extend({ defaultProps: { transitionDuration: 0 } }) },
  fontSizes: { sm: 'var(--s-16)', xs: 'var(--s-14)' },
})

const ours = {
  '--mantine-color-body': 'var(--ground)',
  '--mantine-color-text': 'var(--ink)',
  '--mantine-color-dimmed': 'var(--muted)',
  '--mantine-color-placeholder': 'var(--muted)',
  '--mantine-color-default': 'var(--surface)',
  '--mantine-color-default-border': 'var(--muted)',
  '--mantine-color-error': 'var(--short)',
}

export const cssVariables: CSSVariablesResolver = () => ({ variables: {}, light: ours, dark: ours })
