// The docs that Velmot serves beside its page: where they are, if they are there at all.
const said = (name: string): string => document.querySelector<HTMLMetaElement>(`meta[name="velmot-${name}"]`)?.content ?? ''

/** Where the docs begin; nothing where they were not built. */
export const helpAt = said('help')
export const version = said('version')
/** The page of a request's verb. */
export const aboutVerb = (verb: string): string => `${helpAt}verbs.html#${verb.replaceAll(' ', '-')}`
