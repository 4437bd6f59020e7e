export interface Written {
  text: string;
  x: number;
  y: number;
  size: number;
  align: string;
}
export interface Filled {
  x: number;
  y: number;
  width: number;
  height: number;
  colour: string;
}

/** Notes what is painted; a letter is as wide as half its height. */
export class PretendedPainter {
  font = '10px x';
  fillStyle = '';
  strokeStyle = '';
  lineWidth = 1;
  lineJoin = '';
  textAlign = 'left';
  textBaseline = '';
  readonly texts: Written[] = [];
  readonly halos: string[] = [];
  readonly fills: Filled[] = [];
  readonly frames: Filled[] = [];
  globalAlpha = 1;
  /** Everything with corners: filled or outlined, in which colour. */
  readonly shapes: { corners: [number, number][]; fill: string | null }[] = [];
  private corners: [number, number][] = [];
  beginPath(): void {
    this.corners = [];
  }
  moveTo(x: number, y: number): void {
    this.corners.push([x, y]);
  }
  lineTo(x: number, y: number): void {
    this.corners.push([x, y]);
  }
  closePath(): void {}
  arc(x: number, y: number, radius: number): void {
    this.corners.push([x - radius, y - radius], [x + radius, y + radius]);
  }
  roundRect(x: number, y: number, width: number, height: number): void {
    this.corners.push([x, y], [x + width, y], [x + width, y + height], [x, y + height]);
  }
  save(): void {}
  restore(): void {}
  clip(): void {}
  fill(): void {
    this.shapes.push({ corners: this.corners, fill: this.fillStyle });
  }
  stroke(): void {
    this.shapes.push({ corners: this.corners, fill: null });
  }

  private get size(): number {
    return Number(/([\d.]+)px/.exec(this.font)![1]);
  }
  measureText(text: string): { width: number } {
    return { width: text.length * 0.5 * this.size };
  }
  fillText(text: string, x: number, y: number): void {
    this.texts.push({ text, x, y, size: this.size, align: this.textAlign });
  }
  strokeText(text: string): void {
    this.halos.push(text);
  }
  fillRect(x: number, y: number, width: number, height: number): void {
    this.fills.push({ x, y, width, height, colour: this.fillStyle });
  }
  strokeRect(x: number, y: number, width: number, height: number): void {
    this.frames.push({ x, y, width, height, colour: this.strokeStyle });
  }
}
