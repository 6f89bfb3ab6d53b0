export * from './slotted';
