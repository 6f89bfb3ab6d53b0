/** A control at the desk: for a hand in a glove. */
export const DESK = 'act !min-h-14 !px-5 !text-[17px] justify-center whitespace-nowrap';
