/** A row's id or a node's from an address, or null. */
export const parseId = (text: string): number | null =>
  /^\d{1,16}$/.test(text) && Number.isSafeInteger(Number(text)) ? Number(text) : null;
