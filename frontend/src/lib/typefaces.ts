// What text is set in where it is drawn.
export const SANS = "11px 'Atkinson Hyperlegible Next Variable', sans-serif"
export const BOLD = `700 ${SANS}`
export const MONO = "11px 'Atkinson Hyperlegible Mono Variable', monospace"
