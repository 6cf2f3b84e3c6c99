/** Who works in a shop and which browsers it knows, as they are told to the interface. */
import type { Right, Role } from './rights.ts';

export interface Person {
  readonly id: string;
  readonly name: string;
  readonly role: Role;
}

/** As a lead sees them. */
export interface PersonKept extends Person {
  readonly hasPin: boolean;
  /** From anywhere else than an enrolled tablet. */
  readonly hasPassphrase: boolean;
  readonly hasBadge: boolean;
  /** Too many wrong PINs: nobody gets in by it until a lead has looked at it. */
  readonly isLocked: boolean;
}

export interface Tablet {
  readonly id: string;
  readonly name: string;
  /** Shop time it was enrolled at, ms, and by whom. */
  readonly at: number;
  readonly by: string;
}

/** A one-time code that makes a browser one of the shop's. */
export interface EnrolmentCode {
  readonly code: string;
  /** For so long, min. */
  readonly forMin: number;
  /** Where it leads on that browser, and the same as a picture for its camera, SVG. */
  readonly url: string;
  readonly picture: string;
}

/**
 * How a browser stands in the shop. In a shop where nobody has a PIN yet names are said, not proven (`open`); then a browser is one of the
 * shop's or not, and somebody is at it or nobody.
 */
export interface SessionAnswer {
  readonly mode: 'open' | 'held';
  readonly isDemo: boolean;
  /** Where this very shop answers, where this page has come on plain http over the network and is told next to nothing. */
  readonly secure?: string;
  /** The name it was enrolled by. */
  readonly tablet?: string;
  readonly person?: Person;
  /** Who is at it came by a badge: a lead does what the bench does until a PIN is shown. */
  readonly isByBadge?: boolean;
  readonly rights: readonly Right[];
  /** Who may be chosen here; nobody where the browser is not one of the shop's. In a demo with their PINs. */
  readonly people: readonly (Person & { readonly pin?: string })[];
  /** Told to a lead: who is locked after wrong PINs. */
  readonly locked?: readonly string[];
  /** Locks after so long without a touch, min. */
  readonly locksAfterMin: number;
  /** And when a battery’s page is left. */
  readonly locksOnLeaving: boolean;
  /** Of the program that answers. */
  readonly version: string;
}

/** Shown once, to be printed: what stands on somebody's badge. */
export interface Badge {
  readonly name: string;
  readonly code: string;
  /** The same as a picture for a scanner, SVG. */
  readonly picture: string;
}

/**
 * An entry that waited in a browser under the name it knew, and came in while somebody else was at it: it stays marked until that name is
 * proven.
 */
export interface Claim {
  /** Of the entry. */
  readonly key: string;
  readonly by: string;
  /** Who was at the browser when it came in. */
  readonly sentBy: string;
  readonly tablet: string;
  /** Shop time it was entered at, ms. */
  readonly at: number;
  /** As its log has it. */
  readonly says: string;
  readonly tag: string;
  /** Empty where it is of a battery off the bench. */
  readonly job: string;
}

/** Of who did what: what is not in the record of a battery. */
export interface AuditEntry {
  readonly id: number;
  /** Shop time, ms. */
  readonly at: number;
  readonly by: string;
  readonly tablet: string;
  readonly kind: AuditKind;
  readonly what: string;
}

export const AUDIT_KINDS = ['access', 'refused', 'people', 'override', 'amended', 'shop'] as const;
export type AuditKind = (typeof AUDIT_KINDS)[number];
