export * from './attempt';
export * from './bank';
export * from './exam';
export * from './house';
export * from './marking';
export * from './people';
export * from './release';
export * from './sitting';
