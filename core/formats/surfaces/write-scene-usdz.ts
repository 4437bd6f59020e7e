import { zipSync } from 'fflate';
import { linearOf } from '../../model/srgb.ts';
import { cross, unit, type Vector } from '../../model/vectors.ts';
import { gltfRows } from './gltf-axes.ts';
import type {
  BodyToWrite,
  CameraToWrite,
  LightToWrite,
  MaterialToWrite,
  SceneToWrite,
} from './scene-to-write.ts';

const encoder = new TextEncoder();

/** Data of each file of the archive begins at a multiple of so many bytes (USDZ specification, "Layout"). */
const ALIGNED = 64;

/**
 * Writes a scene as USDZ: one layer of text and its pictures, stored without compression; in metres with +Y up, materials as
 * preview surfaces, steps as samples of visibility. Lines and points are left out, which its viewers do not show.
 */
export function writeSceneUsdz(given: SceneToWrite): Uint8Array<ArrayBuffer> {
  const files: [string, Uint8Array][] = [
    ['scene.usda', encoder.encode(layerOf(given))],
    ...given.pictures.map(({ bytes, type }, i): [string, Uint8Array] => [pictureName(i, type), bytes]),
  ];
  let at = 0;
  const zipped: Record<string, [Uint8Array, { level: 0; extra: Record<number, Uint8Array> }]> = {};
  for (const [name, bytes] of files) {
    // What the header of the entry lacks to the next multiple is filled by a field that means nothing.
    const header = at + 30 + encoder.encode(name).length + 4;
    const fill = (ALIGNED - (header % ALIGNED)) % ALIGNED;
    zipped[name] = [bytes, { level: 0, extra: { 6534: new Uint8Array(fill) } }];
    at = header + fill + bytes.length;
  }
  return zipSync(zipped) as Uint8Array<ArrayBuffer>;
}

const pictureName = (i: number, type: string): string =>
  `pictures/${i}.${type === 'image/jpeg' ? 'jpg' : 'png'}`;

const number = (v: number): string => String(Number(v.toPrecision(7)));
const tuple = (v: ArrayLike<number>): string => `(${Array.from(v, number).join(', ')})`;

function tuples(data: ArrayLike<number>, size: number): string {
  const out: string[] = [];
  for (let i = 0; i + size <= data.length; i += size)
    out.push(tuple(Array.from({ length: size }, (_, k) => data[i + k])));
  return `[${out.join(', ')}]`;
}

/** A name as a path of the format may have it. */
const pathName = (name: string, i: number): string =>
  `${name.replace(/[^A-Za-z0-9_]/g, '_').replace(/^(?=\d)/, '_')}_${i}`;

/** A text in quotation marks. */
const quoted = (said: string): string => `"${said.replace(/[\\"]/g, (c) => `\\${c}`).replace(/\s+/g, ' ')}"`;

const matrixText = (columns: readonly Vector[], at: Vector): string =>
  `( ${columns.map((c) => tuple([...c, 0])).join(', ')}, ${tuple([...at, 1])} )`;

function layerOf(given: SceneToWrite): string {
  const rows = gltfRows(given.up);
  const several = given.steps.length > 1;
  const columns = [0, 1, 2].map((k) => rows.map((row) => row[k] * given.metres) as Vector);
  const inWorld = (v: Vector): Vector =>
    rows.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as Vector;
  const time = several
    ? `
    startTimeCode = 0
    endTimeCode = ${given.steps.length}
    timeCodesPerSecond = ${number(1 / given.pace)}`
    : '';
  return `#usda 1.0
(
    defaultPrim = "Scene"
    metersPerUnit = 1
    upAxis = "Y"${time}
)

def Xform "Scene" (
    displayName = ${quoted(given.name)}
    kind = "component"
)
{
    def Xform "Bodies"
    {
        matrix4d xformOp:transform = ${matrixText(columns, [0, 0, 0])}
        uniform token[] xformOpOrder = ["xformOp:transform"]
${given.bodies.map((body, i) => (body.kind === 'triangles' ? meshOf(body, i, several ? given.steps.length : 1, given.materials[body.material].oneSided) : '')).join('')}    }
    def Scope "Materials"
    {
${given.materials.map((m, i) => materialOf(m, i, given)).join('')}    }
${given.cameras.map((c, i) => cameraOf(c, i, inWorld, given.metres)).join('')}${given.lights.map((l, i) => lightOf(l, i, inWorld)).join('')}}
`;
}

function meshOf(
  { name, positions, normals, elements, places, material, step }: BodyToWrite,
  i: number,
  steps: number,
  oneSided: boolean,
): string {
  const lines = [
    `int[] faceVertexCounts = [${new Array(elements.length / 3).fill(3).join(', ')}]`,
    `int[] faceVertexIndices = [${Array.from(elements).join(', ')}]`,
    `point3f[] points = ${tuples(positions, 3)}`,
    'uniform token subdivisionScheme = "none"',
    `uniform bool doubleSided = ${oneSided ? 0 : 1}`,
    `rel material:binding = </Scene/Materials/m${material}>`,
  ];
  if (normals)
    lines.push(
      `normal3f[] normals = ${tuples(normals, 3)} (\n            interpolation = "vertex"\n            )`,
    );
  if (places) {
    // Places are counted from the lower left here.
    const turned = places.map((v, k) => (k % 2 === 1 ? 1 - v : v));
    lines.push(
      `texCoord2f[] primvars:st = ${tuples(turned, 2)} (\n            interpolation = "vertex"\n            )`,
    );
  }
  if (step !== null && steps > 1) {
    const shown = Array.from(
      { length: steps },
      (_, n) => `${n}: "${n === step ? 'inherited' : 'invisible'}"`,
    );
    lines.push(`token visibility.timeSamples = { ${shown.join(', ')} }`);
  }
  return block(
    `def Mesh "${pathName(name, i)}" (\n            prepend apiSchemas = ["MaterialBindingAPI"]\n            displayName = ${quoted(name)}\n        )`,
    lines,
    8,
  );
}

const block = (opening: string, lines: readonly string[], depth: number): string => {
  const indent = ' '.repeat(depth);
  return `${indent}${opening}\n${indent}{\n${lines.map((l) => `${indent}    ${l}\n`).join('')}${indent}}\n`;
};

function materialOf(m: MaterialToWrite, i: number, { pictures }: SceneToWrite): string {
  const path = `/Scene/Materials/m${i}`;
  const colour = linearOf(m.colour);
  const connected = `.connect = <${path}/Picture.outputs:rgb>`;
  const seen = m.picture === null ? ` = ${tuple(colour)}` : connected;
  const glow = m.glow > 0 ? ` = ${tuple(colour.map((v) => v * m.glow))}` : null;
  // What is exact in its colours gives light of its own and takes none.
  const surface = [
    'uniform token info:id = "UsdPreviewSurface"',
    m.unlit ? 'color3f inputs:diffuseColor = (0, 0, 0)' : `color3f inputs:diffuseColor${seen}`,
    ...(m.unlit
      ? [`color3f inputs:emissiveColor${seen}`]
      : glow
        ? [`color3f inputs:emissiveColor${glow}`]
        : []),
    `float inputs:metallic = ${number(m.metal)}`,
    `float inputs:roughness = ${number(m.unlit ? 1 : m.roughness)}`,
    `float inputs:clearcoat = ${number(m.coat)}`,
    `float inputs:ior = ${number(m.index)}`,
    m.blended && m.picture !== null
      ? `float inputs:opacity.connect = <${path}/Picture.outputs:a>`
      : `float inputs:opacity = ${number(m.opacity * (1 - 0.85 * m.clear))}`,
    ...(m.unlit ? ['int inputs:useSpecularWorkflow = 1', 'color3f inputs:specularColor = (0, 0, 0)'] : []),
    'token outputs:surface',
  ];
  const inner = [block('def Shader "Surface"', surface, 12)];
  if (m.picture !== null) {
    inner.push(
      block(
        'def Shader "Picture"',
        [
          'uniform token info:id = "UsdUVTexture"',
          `asset inputs:file = @${pictureName(m.picture, pictures[m.picture].type)}@`,
          `float2 inputs:st.connect = <${path}/Places.outputs:result>`,
          'token inputs:sourceColorSpace = "sRGB"',
          `float4 inputs:scale = ${tuple([...colour, 1])}`,
          `token inputs:wrapS = "${m.repeats ? 'repeat' : 'clamp'}"`,
          `token inputs:wrapT = "${m.repeats ? 'repeat' : 'clamp'}"`,
          'float3 outputs:rgb',
          'float outputs:a',
        ],
        12,
      ),
      block(
        'def Shader "Places"',
        [
          'uniform token info:id = "UsdPrimvarReader_float2"',
          'string inputs:varname = "st"',
          'float2 outputs:result',
        ],
        12,
      ),
    );
  }
  return `        def Material "m${i}" (\n            displayName = ${quoted(m.name)}\n        )\n        {\n            token outputs:surface.connect = <${path}/Surface.outputs:surface>\n${inner.join('')}        }\n`;
}

type Turn = (v: Vector) => Vector;

/** Height of the frame of a camera, in tenths of its unit, as the format wants it. */
const FRAME = 24;

function cameraOf(
  { name, position, right, up, back, lens, aspect, near, far }: CameraToWrite,
  i: number,
  turned: Turn,
  metres: number,
): string {
  const at = turned(position).map((v) => v * metres) as Vector;
  const perspective = 'openingDegrees' in lens;
  // Of a parallel view the frame is as large as what is seen, in tenths.
  const height = perspective ? FRAME : 20 * lens.halfHeight * metres;
  const focal = perspective ? FRAME / 2 / Math.tan((lens.openingDegrees * Math.PI) / 360) : 50;
  return block(
    `def Camera "${pathName(name, i)}" (\n        displayName = ${quoted(name)}\n    )`,
    [
      `matrix4d xformOp:transform = ${matrixText([right, up, back].map(turned), at)}`,
      'uniform token[] xformOpOrder = ["xformOp:transform"]',
      `token projection = "${perspective ? 'perspective' : 'orthographic'}"`,
      `float verticalAperture = ${number(height)}`,
      `float horizontalAperture = ${number(height * aspect)}`,
      `float focalLength = ${number(focal)}`,
      `float2 clippingRange = ${tuple([near * metres, far * metres])}`,
    ],
    4,
  );
}

function lightOf({ name, to, colour, strength }: LightToWrite, i: number, turned: Turn): string {
  const along = turned(to);
  const helper: Vector = Math.abs(along[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
  const first = unit(cross(helper, along));
  return block(
    `def DistantLight "${pathName(name, i)}"`,
    [
      `matrix4d xformOp:transform = ${matrixText([first, cross(along, first), along], [0, 0, 0])}`,
      'uniform token[] xformOpOrder = ["xformOp:transform"]',
      `color3f inputs:color = ${tuple(colour)}`,
      `float inputs:intensity = ${number(strength)}`,
    ],
    4,
  );
}
