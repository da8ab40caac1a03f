export { bouncesOf, type Contact, contactsOf, gravityOf, type Leg, speedOf } from './bounces.ts';
export * from './flights.ts';
export * from './table.ts';
