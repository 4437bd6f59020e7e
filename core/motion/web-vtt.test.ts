import { expect, it } from 'vitest';
import { reel } from '../scene/things/reel.ts';
import { trackOfFilm, webVtt } from './web-vtt.ts';

const marker = (at: number, name: string, caption = '', until: number | null = null) => ({
  id: `${at}`,
  at,
  name,
  caption,
  until,
});
const all = { seconds: 3700, from: 0, to: 3700 };

// The form is that of the W3C: WebVTT, section 4.1.
it('captions go beside a film with their times', () => {
  const markers = [marker(3661.5, '', 'late'), marker(1, '', 'The fan & <its> rack\n\nturn', 3.25)];
  expect(webVtt(markers, 'captions', all)).toBe(
    'WEBVTT\n\n1\n00:00:01.000 --> 00:00:03.250\nThe fan &amp; &lt;its&gt; rack\nturn\n\n2\n01:01:01.500 --> 01:01:40.000\nlate\n',
  );
});
it('chapters go from one name to the next', () => {
  const markers = [marker(0, 'Warming'), marker(10, '', 'words'), marker(20, 'Baking')];
  expect(webVtt(markers, 'chapters', { seconds: 30, from: 0, to: 30 })).toBe(
    'WEBVTT\n\n1\n00:00:00.000 --> 00:00:20.000\nWarming\n\n2\n00:00:20.000 --> 00:00:30.000\nBaking\n',
  );
});
it('of a part of a film begin with it', () => {
  const markers = [marker(1, 'a', 'one'), marker(5, 'b', 'two')];
  expect(webVtt(markers, 'captions', { seconds: 10, from: 4, to: 6 })).toBe(
    'WEBVTT\n\n1\n00:00:00.000 --> 00:00:01.000\none\n\n2\n00:00:01.000 --> 00:00:02.000\ntwo\n',
  );
  expect(webVtt([], 'chapters', all)).toBe('');
});
it('of a scene follow where its film begins and ends', () => {
  const markers = [marker(1, 'Warming', 'one'), marker(5, 'Baking', 'two')];
  const film = { markers, reel: { ...reel.plain, seconds: 10, from: 4, to: 6 } };
  expect(trackOfFilm(film, 'captions')).toBe(
    'WEBVTT\n\n1\n00:00:00.000 --> 00:00:01.000\none\n\n2\n00:00:01.000 --> 00:00:02.000\ntwo\n',
  );
  expect(trackOfFilm({ ...film, reel: { ...film.reel, to: 4.5 } }, 'chapters')).toBe(
    'WEBVTT\n\n1\n00:00:00.000 --> 00:00:00.500\nWarming\n',
  );
  expect(trackOfFilm({ ...film, markers: [] }, 'chapters')).toBe('');
});
