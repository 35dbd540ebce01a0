import type { Structure } from '../model/index.js';
import { componentsOf, slotAt, type Component, type Componented, type Value } from './components.js';
import { isBlock, SINGLE, VOID, type Element } from './elements.js';
import type { TextMeasurer } from '../text/index.js';
import type { FontFace } from './fonts.js';
import { pageOf, type OutputFile } from './html.js';
import { camel, pascal } from './names.js';

/** The names that attributes have in JSX, where they differ. */
const JSX_NAMES: Readonly<Record<string, string>> = { class: 'className' };
const jsxName = (name: string): string =>
  JSX_NAMES[name] ?? (name.startsWith('aria-') ? name : name.includes('-') ? camel(name) : name);

/** Words as they stand between tags: as they are where JSX reads them so, else as a string. */
const jsxText = (text: string): string =>
  /^[^\s{}<>&][^{}<>&\n]*$/.test(text) && !/\s$/.test(text) ? text : `{${JSON.stringify(text)}}`;

const jsxValue = (value: string): string =>
  /^[^"\\&\n{}]*$/.test(value) ? `"${value}"` : `{${JSON.stringify(value)}}`;

/** A line of code is no longer than this. */
const LINE = 100;

interface Writing {
  readonly uses: Componented['uses'];
  /** The component that is being written, where one is. */
  readonly own?: Component;
}

function printJsx(e: Element, indent: string, path: readonly number[], writing: Writing): string {
  const { own, uses } = writing;
  const use = own ? undefined : uses.get(e);
  if (use) return printUse(use.component, use.values, indent);
  const attributes = e.attributes.map(([name, value]) => {
    const slot = own && slotAt(own, path, (p) => p.kind === 'attribute' && p.name === name);
    return ` ${jsxName(name)}=${slot ? `{${slot.name}}` : jsxValue(value)}`;
  });
  const open = `<${e.tag}${attributes.join('')}`;
  if (VOID.has(e.tag) || SINGLE.has(e.tag)) return `${open} />`;
  const inner = e.children.map((child, i) => {
    if (typeof child === 'string') {
      const slot = own && slotAt(own, path, (p) => p.kind === 'words' && p.at === i);
      return slot ? `{${slot.name}}` : jsxText(child);
    }
    const printed = printJsx(child, `${indent}  `, [...path, i], writing);
    const shown = own && slotAt(own, [...path, i], (p) => p.kind === 'shown');
    return shown ? `{${shown.name} && (${printed})}` : printed;
  });
  if (!isBlock(e)) return `${open}>${inner.join('')}</${e.tag}>`;
  return `${open}>\n${inner.map((line) => `${indent}  ${line}\n`).join('')}${indent}</${e.tag}>`;
}

function printUse({ name, slots }: Component, values: readonly Value[], indent: string): string {
  const props = slots.flatMap((slot, i) => {
    const value = values[i] ?? '';
    if (slot.place.kind === 'shown') return value === true ? [slot.name] : [];
    return value === '' ? [] : [`${slot.name}=${jsxValue(String(value))}`];
  });
  const line = `<${[name, ...props].join(' ')} />`;
  return line.length + indent.length <= LINE
    ? line
    : `<${name}\n${props.map((p) => `${indent}  ${p}\n`).join('')}${indent}/>`;
}

function componentFile(component: Component, uses: Componented['uses']): OutputFile {
  const { name, element, slots, pattern } = component;
  const props = slots
    .map((s) => `  readonly ${s.name}?: ${s.place.kind === 'shown' ? 'boolean' : 'string'};\n`)
    .join('');
  const taken = slots.map((s) => s.name).join(', ');
  const signature = slots.length === 0 ? '()' : `({ ${taken} }: ${name}Props)`;
  const types = slots.length === 0 ? '' : `interface ${name}Props {\n${props}}\n\n`;
  return {
    name: `components/${name}.tsx`,
    text: `${types}/** ${pattern.replace(/\*\//g, '')}. */\nexport function ${name}${signature} {\n  return (\n    ${printJsx(element, '    ', [], { uses, own: component })}\n  );\n}\n`,
  };
}

/**
 * A structure as React function components (TSX): one for the screen, one for each pattern with the slots in which its copies
 * differ, and the style sheet and pictures of the HTML. `fonts` are the faces whose files lie beside them.
 */
export function exportReact(
  structure: Structure,
  fonts: readonly FontFace[] = [],
  measurer?: TextMeasurer,
): OutputFile[] {
  const { root, css, pictures } = pageOf(structure, fonts, measurer);
  const { components, uses } = componentsOf(root);
  const taken = new Set(components.map((c) => c.name));
  const base = pascal(structure.name);
  const screen = taken.has(base) ? `${base}Screen` : base;
  const imports = components.map((c) => `import { ${c.name} } from './components/${c.name}';\n`).join('');
  return [
    {
      name: `${screen}.tsx`,
      text: `${imports}import './styles.css';\n\n/** ${structure.name.replace(/\*\//g, '')}. It fills what holds it, which has a height of its own. */\nexport function ${screen}() {\n  return (\n    <div className="frame">\n      ${printJsx(root, '      ', [], { uses })}\n    </div>\n  );\n}\n`,
    },
    ...components.map((c) => componentFile(c, uses)),
    { name: 'styles.css', text: css },
    ...pictures,
  ];
}
