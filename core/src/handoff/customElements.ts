import type { Structure } from '../model/index.js';
import { componentsOf, type Component } from './components.js';
import { escapeHtml, printHtml, type Element } from './elements.js';
import type { TextMeasurer } from '../text/index.js';
import type { FontFace } from './fonts.js';
import { pageOf, wholePage, type OutputFile } from './html.js';
import { slug } from './names.js';

/** A tag of one's own has a hyphen in it (HTML §4.13.2). */
const tagOf = ({ name }: Component): string => {
  const word = slug(name.replace(/([a-z0-9])([A-Z])/g, '$1-$2'));
  return word.includes('-') ? word : `${word}-element`;
};

const attributeOf = (slot: string): string => slot.replace(/([a-z])([A-Z])/g, '$1-$2').toLowerCase();

/** Lists hold list items and nothing else; with tags of one's own between them they say by role what they are. */
function byRole(e: Element): Element {
  const children = e.children.map((c) => (typeof c === 'string' ? c : byRole(c)));
  const role = e.tag === 'ul' ? 'list' : e.tag === 'li' ? 'listitem' : undefined;
  return role === undefined
    ? { ...e, children }
    : { ...e, tag: 'div', attributes: [...e.attributes, ['role', role]], children };
}

function definition(component: Component): string {
  const { name, element, slots, pattern } = component;
  // On one line: slots are found by the number of their node.
  const template = printHtml(byRole(element), '', () => [])
    .replace(/>\n\s*/g, '>')
    .replace(/\n\s*</g, '<');
  const places = slots.map(({ name: slot, path, place }) => {
    const at = place.kind === 'shown' ? null : place.kind === 'attribute' ? place.name : place.at;
    return [attributeOf(slot), path, at] as const;
  });
  return `
/** ${pattern.replace(/\*\//g, '')}. */
class ${name} extends Pattern {
  static observedAttributes = ${JSON.stringify(places.map(([attribute]) => attribute))};
  static places = ${JSON.stringify(places)};
  static template = ${JSON.stringify(template)};
}
customElements.define('${tagOf(component)}', ${name});
`;
}

const BASE = `/** What the elements of the patterns have in common: a template, and attributes that fill its slots. */
class Pattern extends HTMLElement {
  connectedCallback() {
    if (this.childElementCount > 0) return;
    const template = document.createElement('template');
    template.innerHTML = this.constructor.template;
    this.append(template.content);
    this.fill();
  }

  attributeChangedCallback() {
    this.fill();
  }

  fill() {
    const root = this.firstElementChild;
    if (!root) return;
    for (const [attribute, path, at] of this.constructor.places) {
      const value = this.getAttribute(attribute);
      const element = path.reduce((e, i) => e.childNodes[i], root);
      if (at === null) element.style.display = value === null ? 'none' : '';
      else if (value === null) continue;
      else if (typeof at === 'string') element.setAttribute(at, value);
      else element.childNodes[at].textContent = value;
    }
  }
}
`;

/**
 * A structure with its patterns as custom elements (HTML §4.13): a page, one script with an element for each pattern, whose
 * attributes are the slots in which its copies differ, and the style sheet and pictures of the HTML.
 */
export function exportElements(
  structure: Structure,
  fonts: readonly FontFace[] = [],
  measurer?: TextMeasurer,
): OutputFile[] {
  const { root, css, pictures } = pageOf(structure, fonts, measurer);
  const { components, uses } = componentsOf(root);
  const used = (e: Element): Element => {
    const use = uses.get(e);
    if (!use) return { ...e, children: e.children.map((c) => (typeof c === 'string' ? c : used(c))) };
    return {
      tag: tagOf(use.component),
      attributes: use.component.slots.flatMap(({ name, place }, i): [string, string][] => {
        const value = use.values[i] ?? '';
        if (place.kind === 'shown') return value === true ? [[attributeOf(name), '']] : [];
        return value === '' ? [] : [[attributeOf(name), String(value)]];
      }),
      children: [],
    };
  };
  const script = components.length > 0 ? `  <script src="components.js" defer></script>\n` : '';
  const tags = components.map(tagOf).join(', ');
  return [
    {
      name: 'index.html',
      text: wholePage(
        structure.name,
        printHtml(byRole(used(root)), '    ', () => []),
        script,
      ),
    },
    ...(components.length > 0
      ? [{ name: 'components.js', text: BASE + components.map(definition).join('') }]
      : []),
    { name: 'styles.css', text: css + (tags === '' ? '' : `${escapeHtml(tags)} { display: contents; }\n`) },
    ...pictures,
  ];
}
