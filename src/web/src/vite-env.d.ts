/// <reference types="vite/client" />

interface ImportMetaEnv {
  /** Where the engine for the browser lies; empty while developing without one. */
  readonly VITE_ENGINE?: string;
}
