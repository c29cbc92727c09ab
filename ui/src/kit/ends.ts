/**
 * Of a button that is pressed again and again (undo, the next page, the next move): at its end it
 * keeps the focus, says that it can't be used, and does nothing. A button that is disabled under
 * the keys gives the focus away.
 */
export const endsAt = (end: boolean, act: () => void) => (end ? { "aria-disabled": true } : { onClick: act });
