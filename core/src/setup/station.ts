export const STATIONS = ['blank', 'hold', 'drive', 'feed', 'place', 'burn', 'run', 'close'] as const;

export type StationId = (typeof STATIONS)[number];

export const isStation = (id: string): id is StationId => (STATIONS as readonly string[]).includes(id);

export const STATION_NAMES: Readonly<Record<StationId, string>> = {
  blank: 'Blank',
  hold: 'Hold',
  drive: 'Drive',
  feed: 'Feed',
  place: 'Place',
  burn: 'Burn',
  run: 'Run',
  close: 'Close',
};

export interface StationState {
  readonly id: StationId;
  readonly state: 'not started' | 'entered' | 'proved' | 'out of date';
  /** What this station waits for; empty when it is proved. */
  readonly waits: string;
}

/** Nothing is waited for. */
export const PROVED: Omit<StationState, 'id'> = { state: 'proved', waits: '' };
