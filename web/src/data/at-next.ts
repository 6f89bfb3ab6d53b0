/** What a link says that opens a station at what it waits for. */
export const AT_NEXT = { next: true } as const;
