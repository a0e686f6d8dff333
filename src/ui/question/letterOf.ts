/** The label of the choice at a place: A, B … Z. */
export const letterOf = (place: number): string => String.fromCharCode(65 + place);
