import { valuesOf } from '#core/light/own-finish.ts';
import { backdropOf } from '#core/scene/backdrops/registry.ts';
import { isEven } from '#core/scene/light-rigs/light-rig.ts';
import { lightRigById } from '#core/scene/light-rigs/registry.ts';
import type { Look } from '#core/scene/looks/look.ts';
import { backdrop } from '#core/scene/things/backdrop.ts';
import { ink } from '#core/scene/things/ink.ts';
import { light } from '#core/scene/things/light.ts';

/** What a look is like, in small: its backdrop, and a body in its light. */
export function LookSwatch({ look: { things, solid } }: { look: Look }) {
  const behind = backdropOf({ ...backdrop.plain, ...things.backdrop });
  const lines = { ...ink.plain, ...things.ink };
  const colour = solid?.colour ?? valuesOf(solid?.finish ?? null)?.colour ?? '#c9c4ba';
  const shaded = !isEven(lightRigById({ ...light.plain, ...things.light }.rig));
  return (
    <span
      aria-hidden
      className="flex h-9 w-13 shrink-0 items-center justify-center rounded-md border border-rule"
      style={{ background: `linear-gradient(${behind.top}, ${behind.foot})` }}
    >
      <span
        className="size-5 rounded-full"
        style={{
          background: shaded
            ? `radial-gradient(circle at 35% 30%, color-mix(in srgb, ${colour} 70%, white), ${colour} 45%, color-mix(in srgb, ${colour} 55%, black))`
            : colour,
          outline: lines.shown ? `${Math.max(1, lines.width)}px solid ${lines.colour}` : undefined,
        }}
      />
    </span>
  );
}
