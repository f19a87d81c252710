/** Makes a photograph readable: grey, as wide in contrast as it can be, and for dotted print with its dots run together. */

/** A picture in grey, one byte for each pixel. */
export interface Grey {
  width: number;
  height: number;
  data: Uint8ClampedArray;
}

/** Grey of a picture with four bytes for each pixel (weights of ITU-R BT.601), as wide in contrast as it can be. */
export function greyOf(width: number, height: number, rgba: Uint8ClampedArray): Grey {
  const data = new Uint8ClampedArray(width * height);
  for (let i = 0; i < data.length; i++)
    data[i] = 0.299 * rgba[4 * i]! + 0.587 * rgba[4 * i + 1]! + 0.114 * rgba[4 * i + 2]!;
  return stretched({ width, height, data });
}

/** Stretched so that one pixel in a hundred is black and one is white. */
function stretched(picture: Grey): Grey {
  const counts = new Uint32Array(256);
  for (const value of picture.data) counts[value]!++;
  const part = picture.data.length / 100;
  let [low, high] = [0, 255];
  for (let sum = counts[low]!; sum < part && low < 255; sum += counts[++low]!);
  for (let sum = counts[high]!; sum < part && high > 0; sum += counts[--high]!);
  if (high - low < 16) return picture;
  return { ...picture, data: picture.data.map((value) => ((value - low) * 255) / (high - low)) };
}

/** Means of each pixel with those around it, twice: the dots of a printer become strokes. */
export function softened(picture: Grey, radius: number): Grey {
  const { width, height } = picture;
  let data = picture.data;
  for (let times = 0; times < 2; times++)
    data = means(means(data, 1, width, height, width, radius), width, height, width, 1, radius);
  return stretched({ width, height, data });
}

/** Means along the lines of a picture: pixels of a line lie a step apart, lines a stride. */
function means(from: Uint8ClampedArray, step: number, length: number, lines: number, stride: number, radius: number) {
  const to = new Uint8ClampedArray(from.length);
  for (let line = 0; line < lines; line++) {
    const at = (i: number) => from[line * stride + Math.min(length - 1, Math.max(0, i)) * step]!;
    let sum = 0;
    for (let i = -radius; i <= radius; i++) sum += at(i);
    for (let i = 0; i < length; i++) {
      to[line * stride + i * step] = sum / (2 * radius + 1);
      sum += at(i + radius + 1) - at(i - radius);
    }
  }
  return to;
}
