import type { Drawn, Sheet, Type } from './sheet.js';

const n = (value: number): string => String(Math.round(value * 100) / 100);
const escape = (text: string): string => text.replace(/&/g, '&amp;').replace(/</g, '&lt;');

const textAttributes = (family: string, t: Type): string =>
  `font-family="${family}" font-size="${t.size}" font-weight="${t.weight}" fill="${t.colour}"` +
  (t.tracking ? ` letter-spacing="${t.tracking}"` : '');

const tspans = (x: number, y: number, lines: readonly string[], pitch: number): string =>
  lines.map((line, i) => `<tspan x="${n(x)}" y="${n(y + i * pitch)}">${escape(line)}</tspan>`).join('');

/** The way of programs that keep every group with a transform of its own and write presentation attributes. */
export function exportNested(sheet: Sheet): string {
  const defs: string[] = [];
  const write = (item: Drawn, indent: string): string => {
    switch (item.kind) {
      case 'group':
        return `${indent}<g id="${item.id}" transform="translate(${n(item.x)} ${n(item.y)})">\n${item.items.map((i) => write(i, indent + '  ')).join('')}${indent}</g>\n`;
      case 'rect': {
        const inset = item.stroke ? 0.5 : 0;
        const shadow = item.shadow ? ' filter="url(#lift)"' : '';
        return `${indent}<rect id="${item.id}" x="${n(item.x + inset)}" y="${n(item.y + inset)}" width="${n(item.w - 2 * inset)}" height="${n(item.h - 2 * inset)}"${item.r ? ` rx="${n(item.r - inset)}"` : ''} fill="${item.fill ?? 'none'}"${item.stroke ? ` stroke="${item.stroke}"` : ''}${shadow}/>\n`;
      }
      case 'disc':
        return `${indent}<circle id="${item.id}" cx="${n(item.cx)}" cy="${n(item.cy)}" r="${n(item.r)}" fill="${item.fill}"/>\n`;
      case 'path':
        return `${indent}<path id="${item.id}" transform="translate(${n(item.x)} ${n(item.y)})" d="${item.d}" fill="none" stroke="${item.stroke}" stroke-width="${item.width}" stroke-linecap="round" stroke-linejoin="round"/>\n`;
      case 'text':
        return `${indent}<text id="${item.id}" ${textAttributes(sheet.family, item.type)}>${tspans(item.x, item.y, item.lines, item.pitch)}</text>\n`;
      case 'image': {
        const clip = `clip-${item.id}`;
        if (item.r)
          defs.push(
            `    <clipPath id="${clip}"><rect x="${n(item.x)}" y="${n(item.y)}" width="${n(item.w)}" height="${n(item.h)}" rx="${item.r}"/></clipPath>\n`,
          );
        return `${indent}<image id="${item.id}" x="${n(item.x)}" y="${n(item.y)}" width="${n(item.w)}" height="${n(item.h)}" preserveAspectRatio="xMidYMid slice" href="${item.href}"${item.r ? ` clip-path="url(#${clip})"` : ''}/>\n`;
      }
    }
  };
  const body = sheet.items.map((i) => write(i, '  ')).join('');
  const { width, height } = sheet;
  defs.push(
    '    <filter id="lift" x="-10%" y="-10%" width="120%" height="130%"><feDropShadow dx="0" dy="2" stdDeviation="3" flood-color="#20303c" flood-opacity="0.12"/></filter>\n',
  );
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 0 ${width} ${height}" fill="none">
  <defs>
${defs.join('')}  </defs>
  <rect id="Frame" width="${width}" height="${height}" fill="${sheet.background}"/>
${body}</svg>
`;
}

/** The way of programs that flatten all to absolute coordinates, with classes in a style block and pattern pictures. */
export function exportStyled(sheet: Sheet): string {
  const classes = new Map<string, string>();
  const classOf = (css: string): string => {
    const name = classes.get(css) ?? `cls-${classes.size + 1}`;
    classes.set(css, name);
    return name;
  };
  const defs: string[] = [];
  const write = (item: Drawn, dx: number, dy: number): string => {
    switch (item.kind) {
      case 'group':
        return item.items.map((i) => write(i, dx + item.x, dy + item.y)).join('');
      case 'rect': {
        const inset = item.stroke ? 0.5 : 0;
        const css = `fill:${item.fill ?? 'none'}${item.stroke ? `;stroke:${item.stroke};stroke-width:1px` : ''}`;
        return `  <rect id="${item.id}" class="${classOf(css)}" x="${n(dx + item.x + inset)}" y="${n(dy + item.y + inset)}" width="${n(item.w - 2 * inset)}" height="${n(item.h - 2 * inset)}"${item.r ? ` rx="${n(item.r - inset)}" ry="${n(item.r - inset)}"` : ''}/>\n`;
      }
      case 'disc':
        return `  <circle id="${item.id}" class="${classOf(`fill:${item.fill}`)}" cx="${n(dx + item.cx)}" cy="${n(dy + item.cy)}" r="${n(item.r)}"/>\n`;
      case 'path': {
        const css = `fill:none;stroke:${item.stroke};stroke-width:${item.width}px;stroke-linecap:round;stroke-linejoin:round`;
        return `  <path id="${item.id}" class="${classOf(css)}" transform="matrix(1,0,0,1,${n(dx + item.x)},${n(dy + item.y)})" d="${item.d}"/>\n`;
      }
      case 'text': {
        const t = item.type;
        const css = `font-family:'${sheet.family}';font-size:${t.size}px;font-weight:${t.weight};fill:${t.colour}${t.tracking ? `;letter-spacing:${t.tracking}px` : ''}`;
        return `  <text id="${item.id}" class="${classOf(css)}">${tspans(dx + item.x, dy + item.y, item.lines, item.pitch)}</text>\n`;
      }
      case 'image': {
        // A reference in url() ends at a space.
        const id = `pattern-${item.id.replaceAll(' ', '-')}`;
        defs.push(
          `    <pattern id="${id}" width="1" height="1" patternContentUnits="objectBoundingBox"><image width="1" height="1" preserveAspectRatio="xMidYMid slice" href="${item.href}"/></pattern>\n`,
        );
        return `  <rect id="${item.id}" x="${n(dx + item.x)}" y="${n(dy + item.y)}" width="${n(item.w)}" height="${n(item.h)}"${item.r ? ` rx="${item.r}"` : ''} style="fill:url(#${id})"/>\n`;
      }
    }
  };
  const body = sheet.items.map((i) => write(i, 0, 0)).join('');
  const css = [...classes].map(([rules, name]) => `      .${name} { ${rules} }\n`).join('');
  const { width, height } = sheet;
  return `<?xml version="1.0" encoding="UTF-8"?>
<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${height}">
  <defs>
    <style>
${css}    </style>
${defs.join('')}  </defs>
  <rect id="Frame" width="${width}" height="${height}" style="fill:${sheet.background}"/>
${body}</svg>
`;
}
