import { useEffect, useState } from 'react';

const clock = (seconds: number): string => {
  const s = Math.max(0, Math.ceil(seconds));
  const [h, m] = [Math.floor(s / 3600), Math.floor(s / 60) % 60];
  const two = (n: number): string => String(n).padStart(2, '0');
  return h > 0 ? `${h}:${two(m)}:${two(s % 60)}` : `${m}:${two(s % 60)}`;
};

const TICK = 250;

/**
 * A clock that is waited by: begun by a touch, kept in this browser, so that it goes on while other steps are looked at and
 * after a reload.
 *
 * @param id of batch and step
 */
export const Timer = ({ id, minutes }: { id: string; minutes: number }) => {
  const key = `bistre.timer.${id}`;
  const [begun, setBegun] = useState(() => Number(localStorage.getItem(key)) || null);
  const [now, setNow] = useState(() => Date.now());
  const left = begun === null ? minutes * 60 : minutes * 60 - (now - begun) / 1000;
  const running = begun !== null && left > 0;
  useEffect(() => {
    if (!running) return;
    const timer = setInterval(() => setNow(Date.now()), TICK);
    return () => clearInterval(timer);
  }, [running]);
  const begin = (): void => {
    const at = Date.now();
    localStorage.setItem(key, String(at));
    setNow(at);
    setBegun(at);
  };
  const stop = (): void => {
    localStorage.removeItem(key);
    setBegun(null);
  };
  return (
    <div className="mt-4 flex flex-wrap items-end gap-4">
      <p>
        <span className="block text-lg text-soft">
          {begun === null ? 'to wait' : running ? 'left to wait' : 'waited'}
        </span>
        <span role="timer" className="text-[76px] leading-[1.2] font-bold">
          {running || begun === null ? clock(left) : '✓'}
        </span>
      </p>
      <button className="act !min-h-14 !px-8 !text-lg" onClick={begun === null ? begin : stop}>
        {begun === null ? 'Start the clock' : 'Set it back'}
      </button>
      <p role="status" className="sr-only">
        {begun !== null && !running ? 'The time is over.' : ''}
      </p>
    </div>
  );
};
