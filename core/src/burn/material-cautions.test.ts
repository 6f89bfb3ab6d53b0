import { materialCautions, neverBurned } from './material-cautions';

describe('cautions by material', () => {
  // Chlorine as hydrogen chloride, fluorine as hydrogen fluoride: any safety data sheet of these plastics, sections 5 and 10.
  it.each(['PVC, 2 mm', 'self-adhesive vinyl', 'PTFE sheet', 'chrome-tanned leather', 'toughened glass'])(
    '%s is never burned, and why is said',
    (material) => {
      // prettier-ignore
      expect(neverBurned(material)).toMatch(new RegExp(`^${material} is never burned\\. .+ \\(.+\\)$`));
      expect(materialCautions(material)[0]!.kind).toBe('never');
    },
  );

  it.each([
    ['birch plywood, 3 mm', 'fumes'],
    ['two-layer acrylic, 1.5 mm, slate on bone', 'flares'],
    ['stainless steel under marking compound', 'wash'],
    ['glass', 'shatters'],
    ['slate', 'shatters'],
    ['powder-coated steel', 'fumes'],
  ])('%s: %s', (material, kind) => {
    expect(materialCautions(material).map((c) => c.kind)).toContain(kind);
    expect(neverBurned(material)).toBeNull();
    for (const c of materialCautions(material)) expect([c.says.length > 10, c.basis.length > 5]).toEqual([true, true]);
  });

  it('says nothing of what nobody named, which does not make it harmless', () => {
    expect(materialCautions('unobtained')).toEqual([]);
    expect(materialCautions(null)).toEqual([]);
    expect(neverBurned('PVC-free film')).toBeNull();
    expect(neverBurned('polyvinyl alcohol film')).toBeNull();
  });
});
