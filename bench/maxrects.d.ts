/** The library's own types; its main file cannot be imported by name, the one it means by `module` can. */
declare module 'maxrects-packer/dist/maxrects-packer.mjs' {
  export { MaxRectsPacker } from 'maxrects-packer';
}
