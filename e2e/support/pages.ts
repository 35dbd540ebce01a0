/** An HTML page whose elements with an id of one or two letters are compared with the browser's. */
export interface PageCase {
  readonly name: string;
  readonly style?: string;
  readonly body: string;
}

const page = (name: string, body: string, style?: string): PageCase => ({
  name,
  body,
  ...(style && { style }),
});

const BOX = 'background:#cde';
const at = (x: number, y: number, w: number, h: number): string =>
  `position:absolute;left:${x}px;top:${y}px;width:${w}px;height:${h}px;${BOX}`;

/** Pages at fixed positions and in flow, in the font of the browser test. */
export const PAGES: readonly PageCase[] = [
  page(
    'boxes at absolute places',
    `<div id="a" style="${at(20, 30, 200, 80)}"></div><div id="b" style="${at(260, 30, 100, 40)}"></div>`,
  ),
  page(
    'absolute places within absolute ones',
    `<div id="a" style="${at(20, 30, 300, 200)};border:3px solid #123"><div id="b" style="position:absolute;right:10px;bottom:20px;width:50px;height:30px;${BOX}"></div><div id="c" style="position:absolute;left:10%;top:25%;width:50%;height:20px;${BOX}"></div></div>`,
  ),
  page(
    'stretched between edges',
    `<div id="a" style="${at(20, 30, 300, 200)}"><div id="b" style="position:absolute;left:10px;right:30px;top:20px;bottom:40px;${BOX}"></div></div>`,
  ),
  page(
    'words at absolute places',
    `<div id="a" style="position:absolute;left:40px;top:20px;font-size:24px;line-height:32px">Departures today</div><p id="b" style="position:absolute;margin:0;left:40px;top:80px;width:180px;font-size:14px;line-height:20px">Three crossings a day, the first at 06:40 from pier 2.</p>`,
  ),
  page(
    'aligned words',
    `<div id="a" style="width:300px;text-align:center;line-height:24px">Low Tarn</div><div id="b" style="width:300px;text-align:right;line-height:24px">Ellin Skerry</div>`,
  ),
  page(
    'line height of the font',
    '<div id="a" style="font-size:18px">Marrow Isle</div><div id="b">Nether Quay</div>',
  ),
  page(
    'blocks and margins that collapse',
    `<div id="a" style="${BOX}"><h2 id="b" style="font-size:20px">Fares</h2><p id="c">From the first of May</p><p id="d">Cars and bicycles</p></div><div id="e" style="margin-top:30px;${BOX};height:20px"></div>`,
  ),
  page(
    'padding, borders and box-sizing',
    `<div id="a" style="width:200px;padding:10px 20px;border:2px solid #345;${BOX}"><div id="b" style="height:30px;${BOX}"></div></div><div id="c" style="box-sizing:border-box;width:200px;padding:10px;border:2px solid #345;height:60px;${BOX}"></div>`,
  ),
  page(
    'a centred column',
    `<div id="a" style="width:600px;margin:20px auto;${BOX}"><div id="b" style="width:50%;height:40px;${BOX}"></div></div>`,
  ),
  page(
    'floats in a row',
    `<div id="a" style="width:600px;overflow:hidden;${BOX}"><div id="b" style="float:left;width:180px;height:60px;margin-right:20px;${BOX}"></div><div id="c" style="float:left;width:180px;height:90px;${BOX}"></div><div id="d" style="float:right;width:100px;height:40px;${BOX}"></div></div><div id="e" style="height:10px;${BOX}"></div>`,
  ),
  page(
    'floats that do not fit',
    `<div style="width:400px">${['a', 'b', 'c'].map((id) => `<div id="${id}" style="float:left;width:180px;height:50px;margin:5px;${BOX}"></div>`).join('')}<div id="d" style="clear:both;height:20px;${BOX}"></div></div>`,
  ),
  page(
    'a cleared group',
    '<div class="group" id="a"><div id="b" class="side"></div><div id="c" class="main"></div></div><div id="d" class="foot"></div>',
    `.group{background:#eee}.group:after{content:"";display:table;clear:both}.side{float:left;width:120px;height:100px;${BOX}}.main{margin-left:140px;height:60px;${BOX}}.foot{height:20px;${BOX}}`,
  ),
  page(
    'a float beside words',
    `<div style="width:400px"><div id="a" style="float:left;width:100px;height:60px;${BOX}"></div><p id="b" style="margin:0;line-height:20px">Deck space for 18 cars</p></div>`,
  ),
  page(
    'inline boxes in a line',
    `<div id="a" style="line-height:24px;${BOX}">Next <span id="b" style="display:inline-block;width:60px;height:30px;${BOX}"></span> boat</div>`,
  ),
  page(
    'buttons and fields of declared sizes',
    `<div style="position:absolute;left:20px;top:20px"><input id="a" style="width:200px;height:36px;box-sizing:border-box;border:1px solid #333;padding:0 10px;${BOX}" value="Low Tarn"></div><button id="b" style="position:absolute;left:20px;top:80px;width:140px;height:40px;border:0;${BOX}">Search</button>`,
  ),
  page(
    'selectors of every kind',
    '<div class="card first" id="a"><span></span></div><div class="card" id="b"></div><section><div id="c" data-kind="wide"></div></section>',
    `.card{width:100px;height:30px;${BOX}} .card.first{height:50px} div.card + .card{margin-top:12px} section > div[data-kind="wide"]{width:75%;height:20px;${BOX}} .card:first-child{width:140px} #b{width:111px!important} .card:hover{width:999px}`,
  ),
  page(
    'relative shifts and stacking',
    `<div id="a" style="position:relative;left:15px;top:5px;width:100px;height:40px;${BOX}"><div id="b" style="position:absolute;top:0;left:0;width:20px;height:20px;${BOX}"></div></div><div id="c" style="height:10px;${BOX}"></div>`,
  ),
  page(
    'limits of width and height',
    `<div id="a" style="max-width:300px;min-height:50px;${BOX}"></div><div id="b" style="width:40px;min-width:90px;height:100px;max-height:70px;${BOX}"></div>`,
  ),
  page(
    'a table with widths',
    `<table id="a" style="width:500px;border-collapse:separate;border-spacing:0" cellspacing="0"><tr><td id="b" style="width:100px;padding:0;height:40px;${BOX}"></td><td id="c" style="width:250px;padding:0;${BOX}"></td><td id="d" style="width:150px;padding:0;${BOX}"></td></tr></table>`,
  ),
  page(
    'custom properties and em',
    '<div id="a"><div id="b"></div></div>',
    `:root{--step:8px} #a{font-size:20px;padding:var(--step);width:10em;${BOX}} #b{height:2em;margin-left:calc-not-known;width:var(--none, 50px);${BOX}}`,
  ),
];
