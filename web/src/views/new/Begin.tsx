/** The end of a form that begins a batch. */
export const Begin = ({ waits, onLeave }: { waits: boolean; onLeave: () => void }) => (
  <p className="mt-4 flex justify-end gap-3">
    <button type="button" className="act" onClick={onLeave}>
      Leave it
    </button>
    <button className="act act-main" disabled={waits}>
      Begin
    </button>
  </p>
);
