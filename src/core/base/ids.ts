/** An id as the server makes them: letters, digits, hyphen and underscore. Anything else is nobody's id. */
export const isId = (text: unknown): text is string => typeof text === 'string' && /^[A-Za-z0-9_-]{6,40}$/.test(text);
