/** That the Shelf has a newer file of an artwork than what carries it; nothing while it has not. */
export const NewerFile = ({
  what,
  have,
  newest = 0,
  onTake,
}: {
  what: string;
  have: number;
  newest?: number | undefined;
  onTake: (revision: number) => void;
}) =>
  newest > have ? (
    <p className="mt-1 text-[13px] text-ochre">
      There is a newer file: r{newest}; {what} has r{have}.{' '}
      <button type="button" className="link" onClick={() => onTake(newest)}>
        Take r{newest}
      </button>
    </p>
  ) : null;
