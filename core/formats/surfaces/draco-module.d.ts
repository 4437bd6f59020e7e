declare module 'draco3dgltf/draco_decoder_gltf_nodejs.js' {
  /** Makes the decoder; without its program it looks for that beside itself, which only Node can. */
  export default function createDecoderModule(given?: { wasmBinary?: ArrayBuffer }): Promise<object>;
}

declare module 'draco3dgltf/draco_encoder_gltf_nodejs.js' {
  export default function createEncoderModule(): Promise<object>;
}
