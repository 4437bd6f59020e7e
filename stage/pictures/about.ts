import { strFromU8, strToU8, unzlibSync, zlibSync } from 'fflate';
import { decodeText, encodeText } from '#core/formats/xml/xml-tags.ts';
import type { Scene } from '#core/scene/document.ts';

/** What a picture file says of itself. */
export interface PictureAbout {
  scene: Scene;
  /** Name of the run. */
  run: string;
  /** Which step, in words. */
  step: string;
  /** How it was made: size, passes. */
  settings: string;
  made: Date;
}

const SCENE = 'dresser:scene';
const RUN = 'dresser:run';

/** One line for a reader. */
export const describedBy = ({ run, step, settings }: PictureAbout): string =>
  [run, step, settings].join('; ');

/** What is said of a picture, as a packet of XMP (ISO 16684-1); the scene itself is in it, packed, as base64. */
export function packetOf(about: PictureAbout): string {
  const packed = btoa(strFromU8(zlibSync(strToU8(JSON.stringify(about.scene))), true));
  const alternatives = (tag: string, text: string): string =>
    `<${tag}><rdf:Alt><rdf:li xml:lang="x-default">${encodeText(text)}</rdf:li></rdf:Alt></${tag}>`;
  return [
    '<?xpacket begin="\uFEFF" id="W5M0MpCehiHzreSzNTczkc9d"?>',
    '<x:xmpmeta xmlns:x="adobe:ns:meta/"><rdf:RDF xmlns:rdf="http://www.w3.org/1999/02/22-rdf-syntax-ns#">',
    '<rdf:Description rdf:about="" xmlns:dc="http://purl.org/dc/elements/1.1/"',
    ' xmlns:xmp="http://ns.adobe.com/xap/1.0/" xmlns:dresser="urn:dresser:picture:1">',
    alternatives('dc:title', about.scene.name),
    alternatives('dc:description', describedBy(about)),
    `<xmp:CreatorTool>Dresser</xmp:CreatorTool><xmp:CreateDate>${about.made.toISOString()}</xmp:CreateDate>`,
    `<${RUN}>${encodeText(about.run)}</${RUN}><${SCENE}>${packed}</${SCENE}>`,
    '</rdf:Description></rdf:RDF></x:xmpmeta>',
    '<?xpacket end="r"?>',
  ].join('');
}

/** What a picture file was made of: the scene, not checked yet, and the name of its run where it is stated. */
export interface SceneOfPicture {
  scene: unknown;
  run: string | null;
}

/**
 * What a picture file was made of; null where it holds no scene.
 *
 * @throws Error where it is damaged
 */
export function sceneInPicture(bytes: Uint8Array): SceneOfPicture | null {
  const scene = elementIn(bytes, SCENE);
  if (scene === null) return null;
  try {
    const packed = atob(strFromU8(scene, true));
    const run = elementIn(bytes, RUN);
    return {
      scene: JSON.parse(strFromU8(unzlibSync(strToU8(packed, true)))),
      run: run && decodeText(strFromU8(run)),
    };
  } catch {
    throw new Error('The scene in this picture is damaged. Choose the file as it was saved.');
  }
}

/** What stands in the first element of a name. */
function elementIn(bytes: Uint8Array, name: string): Uint8Array | null {
  const opening = `<${name}>`;
  const from = indexOf(bytes, opening, 0);
  const to = from < 0 ? -1 : indexOf(bytes, `</${name}>`, from);
  return to < 0 ? null : bytes.subarray(from + opening.length, to);
}

function indexOf(bytes: Uint8Array, text: string, from: number): number {
  const wanted = strToU8(text, true);
  for (let at = bytes.indexOf(wanted[0], from); at >= 0; at = bytes.indexOf(wanted[0], at + 1))
    if (wanted.every((c, i) => bytes[at + i] === c)) return at;
  return -1;
}
