/** Whether something lies over the page and has the keyboard: a dialog, a menu, a list. One that is closing has it no more. */
export const isCovered = () => document.querySelector('.MuiModal-root:not([aria-hidden=true])') !== null;
