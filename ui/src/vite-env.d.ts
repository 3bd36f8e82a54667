/** From the file VERSION, when the screens are built. */
declare const __VERSION__: string
