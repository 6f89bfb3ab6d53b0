import type { MachineDocument, RecipeSpec } from '@bistre/contract';
import { beamSource, burnWords, energies, engravings, fixed, fluence, worked, type BurnSetting, type WorkedLine } from '@bistre/core'; // prettier-ignore
import { Working } from '../../parts/Reading';

/** The energy that a burn leaves on the surface, pass by pass and in all. */
export const energyWorking = (label: string, watts: number, s: BurnSetting): WorkedLine =>
  worked(
    label,
    s.passes > 1 ? 'passes × P / (speed × interval)' : 'P / (speed × interval)',
    `${s.passes > 1 ? `${s.passes} × ` : ''}${fixed(watts * s.power, 1)} W / (${fixed(s.speed, 1)} mm/s × ${fixed(s.interval, 5)} mm)`,
    `${fixed(s.passes * fluence(watts, s), 3)} J/mm²`,
    'geometry',
  );

/** Every burn of a recipe in its order, in words, with its energy on the surface, and all of them together. */
export const Energies = ({ spec, machine }: { spec: Pick<RecipeSpec, 'engrave' | 'after'>; machine: MachineDocument }) => {
  const all = engravings(spec);
  const each = energies(spec, machine.profile);
  const sum = each.reduce<number>((s, e) => s + (e ?? 0), 0);
  return (
    <section aria-label="Energy on the surface" className="mb-5">
      <h2 className="part-title mb-1">energy on the surface, burn by burn</h2>
      <ol className="space-y-1">
        {all.map((s, i) => {
          const source = beamSource(machine.profile, s);
          return (
            <li key={i}>
              {all.length > 1 && <b>{i + 1}. </b>}
              {burnWords(s)}:{' '}
              {source ? (
                <Working lines={[energyWorking(`burn ${i + 1}`, source.power, s)]} title={`energy of burn ${i + 1}`} figure={`${fixed(each[i]!)} J/mm²`} />
              ) : (
                <span className="text-oxide">{machine.name} has one source.</span>
              )}
              {s.passes > 1 && source && <span className="text-soft"> ({fixed(each[i]! / s.passes)} a pass)</span>}
            </li>
          );
        })}
      </ol>
      {all.length > 1 && (
        <p className="mt-1">
          <b>In all {fixed(sum)} J/mm²</b>
          {new Set(all.map((s) => s.source ?? 'first')).size > 1 && ', of two sources: a material takes them up otherwise, so the sum says little'}
        </p>
      )}
    </section>
  );
}; // prettier-ignore
