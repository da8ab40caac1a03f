declare module 'gltf-validator' {
  /** What the validator finds; 0 is an error, 1 a warning, 2 an information, 3 a hint. */
  export interface Issue {
    readonly code: string;
    readonly message: string;
    readonly severity: 0 | 1 | 2 | 3;
    readonly pointer: string;
  }
  export function validateBytes(
    bytes: Uint8Array,
  ): Promise<{ readonly issues: { readonly messages: readonly Issue[] } }>;
}
