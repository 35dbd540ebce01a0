/** Small drawings for comparing what is read with what a browser shows; each element with an id is compared. */
export interface CorpusCase {
  readonly name: string;
  readonly body: string;
  /** Attributes of the outermost svg besides its namespace. */
  readonly frame?: string;
}

const PIXEL =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAIAAAACCAIAAAD91JpzAAAAFklEQVR4nGPwiVrhE7WCwcpjmpXHNAAhrATNzWTrGQAAAABJRU5ErkJggg==';
const at = (name: string, body: string, frame?: string): CorpusCase => ({
  name,
  body,
  ...(frame && { frame }),
});

export const SHAPE_CASES: readonly CorpusCase[] = [
  at(
    'rectangles',
    '<rect id="a" x="10" y="20" width="30" height="40"/><rect id="b" x="50.25" y="20.5" width="99.9" height="1" rx="0.5"/>',
  ),
  at(
    'strokes',
    '<rect id="a" x="10" y="20" width="30" height="40" stroke="red" stroke-width="3"/><circle id="b" cx="90" cy="50" r="20" fill="none" stroke="red" stroke-width="5"/>',
  ),
  at('ellipses', '<ellipse id="a" cx="60" cy="40" rx="30" ry="12"/><circle id="b" cx="150" cy="50" r="25"/>'),
  at(
    'polygons',
    '<polygon id="a" points="10,10 60 20 30,70"/><polyline id="b" points="100,10 160,40 120,90"/>',
  ),
  at('cubic curves', '<path id="a" d="M10 80C40 10 65 10 95 80S150 150 180 80"/>'),
  at('quadratic curves', '<path id="a" d="M10 80Q52.5 10 95 80T180 80"/>'),
  at('arcs', '<path id="a" d="M20 100A45 45 0 0 0 110 100"/><path id="b" d="M130 100a30 50 30 1 1 40 20z"/>'),
  at(
    'relative commands',
    '<path id="a" d="m10 10h20v30l-5 5h-15z"/><path id="b" d="M60,60 l10-20 10,20-5 5z"/>',
  ),
  at('compact numbers', '<path id="a" d="M.5.5l9.5 0 0 1e1-9.5-.5z"/>'),
  at(
    'translate',
    '<g transform="translate(20 30)"><rect id="a" width="10" height="10"/></g><rect id="b" transform="translate(5)" width="9" height="9"/>',
  ),
  at('scale', '<g transform="scale(2 3)"><rect id="a" x="5" y="5" width="10" height="10"/></g>'),
  at(
    'rotate',
    '<rect id="a" x="50" y="50" width="40" height="10" transform="rotate(30 70 55)"/><path id="b" d="M10 10h30v5h-30z" transform="rotate(-45 25 25)"/>',
  ),
  at('skew', '<rect id="a" x="50" y="50" width="40" height="30" transform="skewX(20)"/>'),
  at('matrix', '<rect id="a" width="20" height="10" transform="matrix(1.5 0.2 -0.3 2 40 50)"/>'),
  at(
    'a list of transforms',
    '<rect id="a" width="20" height="10" transform="translate(30,30) scale(2) rotate(15)"/>',
  ),
  at(
    'nested transforms',
    '<g transform="translate(10 10)"><g transform="scale(2)"><g transform="rotate(10)"><rect id="a" x="5" y="5" width="20" height="8"/></g></g></g>',
  ),
  at(
    'viewBox larger',
    '<rect id="a" x="100" y="50" width="200" height="100"/>',
    'width="200" height="100" viewBox="0 0 400 200"',
  ),
  at(
    'viewBox with an origin',
    '<rect id="a" x="10" y="10" width="20" height="20"/>',
    'width="200" height="200" viewBox="10 10 100 100"',
  ),
  at(
    'viewBox in the middle',
    '<rect id="a" width="100" height="100"/>',
    'width="300" height="100" viewBox="0 0 100 100"',
  ),
  at(
    'viewBox at the end',
    '<rect id="a" width="100" height="100"/>',
    'width="300" height="100" viewBox="0 0 100 100" preserveAspectRatio="xMaxYMid"',
  ),
  at(
    'viewBox that fills',
    '<rect id="a" x="20" width="50" height="50"/>',
    'width="300" height="100" viewBox="0 0 100 100" preserveAspectRatio="xMinYMin slice"',
  ),
  at(
    'viewBox that distorts',
    '<rect id="a" x="20" y="20" width="50" height="50"/>',
    'width="300" height="100" viewBox="0 0 100 100" preserveAspectRatio="none"',
  ),
  at('units', '<rect id="a" x="1cm" y="10mm" width="1in" height="36pt"/>'),
  at('percentages', '<rect id="a" x="10%" y="20%" width="50%" height="25%"/>'),
  at(
    'a nested svg',
    '<svg x="40" y="20" width="100" height="50" viewBox="0 0 200 100"><rect id="a" x="20" y="20" width="100" height="40"/></svg>',
  ),
  at(
    'a use',
    '<defs><rect id="r" width="20" height="10"/></defs><use id="a" href="#r" x="30" y="40"/><use id="b" href="#r" transform="translate(100 50) scale(2)"/>',
  ),
  at(
    'a symbol',
    '<symbol id="s" viewBox="0 0 20 10"><rect width="20" height="10"/></symbol><use id="a" href="#s" x="30" y="40" width="80" height="80"/>',
  ),
  at(
    'the old link prefix',
    '<defs><rect id="r" width="20" height="10"/></defs><use id="a" xmlns:xlink="http://www.w3.org/1999/xlink" xlink:href="#r" x="30" y="40"/>',
  ),
  at(
    'a switch',
    '<switch><rect id="a" x="10" y="10" width="30" height="30"/><rect id="never" width="99" height="99"/></switch>',
  ),
  at(
    'style blocks',
    '<style>.w{stroke:red;stroke-width:6} #b{stroke-width:2}</style><rect id="a" class="w" x="20" y="20" width="30" height="30"/><rect id="b" class="w" x="90" y="20" width="30" height="30"/>',
  ),
  at(
    'style attributes',
    '<rect id="a" style="stroke:red;stroke-width:4px" x="20" y="20" width="30" height="30"/>',
  ),
  at(
    'inherited strokes',
    '<g stroke="red" stroke-width="8"><rect id="a" x="20" y="20" width="30" height="30"/><g stroke="none"><rect id="b" x="90" y="20" width="30" height="30"/></g></g>',
  ),
  at(
    'scaled strokes',
    '<g transform="scale(2)"><rect id="a" x="20" y="20" width="30" height="30" stroke="red" stroke-width="2"/></g>',
  ),
  at(
    'pictures',
    `<image id="a" x="10" y="10" width="80" height="60" href="${PIXEL}"/><image id="b" x="100" y="10" width="50" height="50" preserveAspectRatio="none" transform="translate(5 5)" href="${PIXEL}"/>`,
  ),
  at(
    'gradients and patterns',
    `<linearGradient id="g"><stop stop-color="red"/><stop offset="1" stop-color="blue"/></linearGradient><pattern id="p" width="1" height="1"><image width="2" height="2" href="${PIXEL}"/></pattern><rect id="a" x="10" y="10" width="40" height="40" fill="url(#g)"/><rect id="b" x="70" y="10" width="40" height="40" fill="url(#p)"/>`,
  ),
  at(
    'shadows and blurs do not grow',
    '<filter id="f"><feDropShadow dx="0" dy="8" stdDeviation="6"/></filter><rect id="a" x="30" y="30" width="60" height="40" filter="url(#f)"/>',
  ),
  at('groups with opacity', '<g opacity="0.5"><rect id="a" x="30" y="30" width="60" height="40"/></g>'),
];

export const TEXT_CASES: readonly CorpusCase[] = [
  at('one line', '<text id="a" x="20" y="40">Leaves 14:20 from pier 2</text>'),
  at(
    'anchors',
    '<text id="a" x="200" y="40" text-anchor="middle">Marrow Isle</text><text id="b" x="380" y="80" text-anchor="end">Low Tarn</text>',
  ),
  at(
    'tspans per line',
    '<text id="a"><tspan x="20" y="40">Deck space for 18 cars</tspan><tspan x="20" y="64">and a bus</tspan></text>',
  ),
  at('letter spacing', '<text id="a" x="20" y="40" letter-spacing="2">ELLIN SKERRY</text>'),
  at(
    'weights in one line',
    '<text id="a" x="20" y="40">Full <tspan font-weight="700">until Friday</tspan></text>',
  ),
  at('moved by dx', '<text id="a" x="20" y="40" dx="7">Nether Quay</text>'),
  at('preserved spaces', '<text id="a" x="20" y="40" xml:space="preserve">Pier   2</text>'),
  at('scaled', '<g transform="scale(1.5)"><text id="a" x="20" y="40">Next boat</text></g>'),
  at('textLength', '<text id="a" x="20" y="40" textLength="200">Spread out</text>'),
  at('a position for each letter', '<text id="a" x="20 30 40 50" y="40">Pier</text>'),
];
