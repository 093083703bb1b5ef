/** Drawings for the rest of SVG: style sheets, copies, viewports, markers, patterns, masks, blends, pictures, filters. */
import { encode } from 'fast-png'

const svg = (inside: string, attributes = 'width="240" height="240" viewBox="0 0 240 240"'): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" ${attributes}>${inside}</svg>`

/** A small picture: a gradient with a transparent corner. */
function picture(width: number, height: number): string {
  const data = new Uint8Array(width * height * 4)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set([(255 * x) / width, (255 * y) / height, 120, x + y < 8 ? 0 : 255], 4 * (y * width + x))
  return `data:image/png;base64,${Buffer.from(encode({ width, height, data, channels: 4 })).toString('base64')}`
}

const ball = '<radialGradient id="ball"><stop stop-color="#fff"/><stop offset="1" stop-color="#b03020"/></radialGradient>'

export const DOCUMENTS: Readonly<Record<string, string>> = {
  'style sheets': svg(`<style>
    /* classes, ids, elements, descendants, attributes, states */
    rect { fill: #3a5f61 } .warm { fill: #e0a544 } #one { stroke: #20302e; stroke-width: 6 } g > .warm { fill: #8e482b }
    g rect:first-child { opacity: .5 } [data-kind="soft"] { fill: teal !important } .a.b, circle:not(.c) { fill: purple } rect:nth-child(2n) { stroke: red }
    @media print { rect { fill: black } } @media screen { .m { fill: orange } } * { stroke-linejoin: round }
  </style><rect id="one" x="10" y="10" width="60" height="60"/><rect class="warm" x="90" y="10" width="60" height="60"/>
  <g><rect class="warm" x="10" y="90" width="60" height="60"/><rect class="warm" x="90" y="90" width="60" height="60"/></g>
  <rect data-kind="soft" x="170" y="10" width="60" height="60" style="fill: pink"/><circle class="c a b" cx="200" cy="120" r="30"/><circle cx="40" cy="200" r="30"/><rect class="m" x="90" y="170" width="60" height="60"/>`),
  'inheritance and current colour':
    svg(`<g color="#1e7a6b" fill="currentColor" stroke="#c2402c" stroke-width="4"><circle cx="60" cy="60" r="40"/>
    <g color="#b27e1e" stroke="inherit"><rect x="120" y="20" width="80" height="80"/><path fill="inherit" d="M20 130h80v60z"/></g>
    <g style="color: navy; fill: none; stroke: currentcolor"><circle cx="170" cy="170" r="40"/></g></g>`),
  'copies and symbols':
    svg(`<defs><path id="leaf" d="M0 0C10 -30 40 -30 50 0C40 30 10 30 0 0z"/><symbol id="eye" viewBox="0 0 40 20" preserveAspectRatio="xMinYMid meet"><ellipse cx="20" cy="10" rx="20" ry="10"/><circle cx="20" cy="10" r="8" fill="#fff"/></symbol>
    <g id="pair"><use href="#leaf"/><use xlink:href="#leaf" y="40" fill="#e0a544"/></g></defs>
    <use href="#leaf" x="20" y="50" fill="#3a5f61"/><use href="#pair" transform="translate(100 40) rotate(20)" stroke="#20302e" stroke-width="3"/>
    <use href="#eye" x="20" y="120" width="100" height="80" fill="#8e482b"/><use href="#eye" x="140" y="150" width="80" height="20"/><use href="#eye" x="10" y="210" width="50%" height="12%"/>`),
  'nested viewports':
    svg(`<rect width="240" height="240" fill="#e8e0d0"/><svg x="20" y="20" width="80" height="80" viewBox="0 0 10 10"><circle cx="5" cy="5" r="6" fill="#3a5f61"/></svg>
    <svg x="120" y="20" width="100" height="60" viewBox="0 0 10 10" preserveAspectRatio="xMaxYMin meet"><rect width="10" height="10" fill="#c2402c"/></svg>
    <svg x="20" y="130" width="90" height="60" viewBox="0 0 10 10" preserveAspectRatio="xMidYMax slice"><rect width="10" height="10" fill="#e0a544"/><circle cx="5" cy="5" r="4" fill="#20302e"/></svg>
    <svg x="130" y="120" width="90" height="100" viewBox="0 0 10 10" preserveAspectRatio="none" overflow="visible"><circle cx="5" cy="5" r="5.4" fill="#6e9f90"/></svg>
    <svg x="50%" y="45%" width="10%" height="5%"><rect width="100%" height="100%"/></svg>`),
  'aspect ratio none': svg(
    '<circle cx="20" cy="10" r="9" fill="#3a5f61"/><rect x="2" y="2" width="36" height="16" fill="none" stroke="#c2402c"/>',
    'width="240" height="240" viewBox="0 0 40 20" preserveAspectRatio="none"',
  ),
  'aspect ratio slice': svg(
    '<circle cx="20" cy="10" r="9" fill="#3a5f61"/><rect x="2" y="2" width="36" height="16" fill="none" stroke="#c2402c"/>',
    'width="240" height="240" viewBox="0 0 40 20" preserveAspectRatio="xMinYMax slice"',
  ),
  'units and percentages': svg(
    `<rect x="5mm" y="0.5cm" width="1in" height="24pt" fill="#3a5f61"/><circle cx="50%" cy="75%" r="15%" fill="#e0a544"/><rect x="60%" y="10%" width="30%" height="20%" rx="2mm" stroke="#20302e" stroke-width="2%" fill="#fff"/><line x1="0" y1="50%" x2="100%" y2="60%" stroke="#c2402c" stroke-width="1pc"/>`,
  ),
  switch:
    svg(`<switch><g systemLanguage="xx"><rect width="240" height="240" fill="red"/></g><g systemLanguage="en"><circle cx="120" cy="120" r="90" fill="#1e7a6b"/></g><rect width="240" height="240"/></switch>
    <switch><rect requiredExtensions="http://example.com/x" width="99" height="99" fill="red"/><rect x="90" y="90" width="60" height="60" fill="#fff"/></switch>`),
  'dashes, caps, joins':
    svg(`<g fill="none" stroke="#20302e" stroke-width="10"><path d="M20 20h200" stroke-dasharray="30 10"/><path d="M20 50h200" stroke-dasharray="0 20" stroke-linecap="round"/><path d="M20 80h200" stroke-dasharray="20,10,5" stroke-dashoffset="12"/>
    <path d="M30 150l30 -40l30 40" stroke-linejoin="miter"/><path d="M100 150l30 -40l30 40" stroke-linejoin="round" stroke-linecap="square"/><path d="M170 150l30 -40l30 40" stroke-linejoin="bevel"/>
    <path d="M30 220l8 -50l8 50" stroke-miterlimit="2"/><path d="M100 220l8 -40l8 40" stroke-miterlimit="20"/><circle cx="190" cy="195" r="28" stroke-dasharray="10%" /></g>`),
  markers:
    svg(`<defs><marker id="arrow" viewBox="0 0 10 10" refX="5" refY="5" markerWidth="5" markerHeight="5" orient="auto-start-reverse"><path d="M0 0L10 5L0 10z" fill="#c2402c"/></marker>
    <marker id="dot" markerWidth="4" markerHeight="4" refX="2" refY="2"><circle cx="2" cy="2" r="1.6" fill="#1e7a6b"/></marker>
    <marker id="square" markerUnits="userSpaceOnUse" markerWidth="14" markerHeight="14" refX="7" refY="7" orient="45"><rect width="14" height="14" fill="#b27e1e"/></marker></defs>
    <g fill="none" stroke="#20302e" stroke-width="4"><path d="M30 40C80 -10 120 90 200 40" marker-start="url(#arrow)" marker-end="url(#arrow)"/><polyline points="30,100 90,140 150,90 210,130" marker-mid="url(#dot)" marker-start="url(#square)" marker-end="url(#square)"/>
    <path d="M40 180h60v40h-60z" style="marker:url(#dot)"/><line x1="140" y1="200" x2="210" y2="180" marker-end="url(#arrow)"/></g>`),
  'paint order': svg(
    `<g stroke="#20302e" stroke-width="20" fill="#e0a544"><circle cx="70" cy="70" r="40"/><circle cx="170" cy="70" r="40" paint-order="stroke"/><rect x="40" y="150" width="60" height="60" style="paint-order: stroke fill; stroke-opacity: .6"/></g>`,
  ),
  gradients:
    svg(`<defs>${ball}<linearGradient id="base" x1="20%" gradientTransform="rotate(30)"><stop offset=".2" stop-color="#3a5f61"/><stop offset=".5" stop-color="#e0a544" stop-opacity=".4"/><stop offset="80%" style="stop-color:#c2402c"/></linearGradient>
    <linearGradient id="mirror" href="#base" spreadMethod="reflect" x2="50%"/><linearGradient id="again" xlink:href="#base" spreadMethod="repeat" gradientUnits="userSpaceOnUse" x1="0" x2="30" gradientTransform="skewX(20)"/>
    <radialGradient id="off" href="#ball" fx=".2" fy=".3" r=".6" spreadMethod="reflect"/><radialGradient id="fr" href="#ball" fr=".2"/></defs>
    <rect x="10" y="10" width="100" height="60" fill="url(#base)"/><rect x="130" y="10" width="100" height="60" fill="url(#mirror)"/><rect x="10" y="90" width="100" height="60" fill="url(#again)"/><ellipse cx="180" cy="120" rx="50" ry="30" fill="url(#off)"/><circle cx="60" cy="195" r="35" fill="url(#fr)"/><path d="M130 170h100v60h-100z" fill="none" stroke="url(#ball)" stroke-width="16"/>`),
  patterns:
    svg(`<defs><pattern id="dots" width="20" height="20" patternUnits="userSpaceOnUse"><rect width="20" height="20" fill="#f6f1e7"/><circle cx="10" cy="10" r="6" fill="#c2402c"/></pattern>
    <pattern id="lines" width=".2" height=".25" viewBox="0 0 10 10" patternTransform="rotate(30)"><path d="M0 0h10v5H0z" fill="#3a5f61"/></pattern>
    <pattern id="box" width=".25" height=".25" patternContentUnits="objectBoundingBox"><rect width=".15" height=".15" fill="#b27e1e"/></pattern><pattern id="heir" href="#dots" patternTransform="scale(.5) skewX(20)"/></defs>
    <rect x="10" y="10" width="100" height="100" fill="url(#dots)"/><rect x="130" y="10" width="100" height="100" fill="url(#lines)"/><circle cx="60" cy="180" r="50" fill="url(#box)"/><circle cx="180" cy="180" r="40" fill="none" stroke="url(#heir)" stroke-width="20"/>`),
  'clip paths':
    svg(`<defs><clipPath id="round"><circle cx="60" cy="60" r="45"/></clipPath><clipPath id="two"><rect x="130" y="20" width="40" height="80"/><circle cx="190" cy="60" r="30"/></clipPath>
    <clipPath id="half" clipPathUnits="objectBoundingBox"><path d="M0 0L1 0L0 1z"/></clipPath><clipPath id="hole"><path clip-rule="evenodd" d="M130 130h90v90h-90z M160 160h30v30h-30z"/></clipPath>
    <clipPath id="nested" clip-path="url(#hole)"><circle cx="175" cy="175" r="45"/></clipPath></defs>
    <rect x="10" y="10" width="100" height="100" fill="#3a5f61" clip-path="url(#round)"/><g clip-path="url(#two)"><rect x="120" y="10" width="110" height="50" fill="#c2402c"/><rect x="120" y="60" width="110" height="50" fill="#e0a544"/></g>
    <rect x="10" y="130" width="90" height="90" fill="#6e9f90" clip-path="url(#half)" transform="rotate(5 50 170)"/><rect x="120" y="120" width="110" height="110" fill="#20302e" clip-path="url(#nested)"/>`),
  masks:
    svg(`<defs><linearGradient id="fade"><stop stop-color="#fff"/><stop offset="1" stop-color="#000"/></linearGradient><mask id="m"><rect width="240" height="240" fill="url(#fade)"/></mask>
    <mask id="alpha" mask-type="alpha"><circle cx="180" cy="60" r="40" fill="#000" fill-opacity=".7"/></mask><mask id="box" maskContentUnits="objectBoundingBox"><circle cx=".5" cy=".5" r=".4" fill="#fff"/></mask>
    <mask id="grey" maskUnits="userSpaceOnUse" x="130" y="130" width="60" height="100"><rect x="120" y="120" width="110" height="110" fill="#0f0"/><circle cx="170" cy="170" r="20" fill="#888"/></mask></defs>
    <rect x="10" y="10" width="100" height="100" fill="#3a5f61" mask="url(#m)"/><rect x="130" y="10" width="100" height="100" fill="#c2402c" mask="url(#alpha)"/><g mask="url(#box)"><rect x="10" y="130" width="100" height="50" fill="#e0a544"/><rect x="10" y="180" width="100" height="50" fill="#6e9f90"/></g><rect x="120" y="120" width="110" height="110" fill="#20302e" mask="url(#grey)"/>`),
  'group opacity': svg(
    `<g opacity=".5"><circle cx="80" cy="80" r="60" fill="#c2402c"/><circle cx="140" cy="80" r="60" fill="#3a5f61"/><g opacity=".5"><rect x="60" y="60" width="100" height="150" fill="#e0a544" stroke="#20302e" stroke-width="12"/></g></g>`,
  ),
  'blend modes': svg(
    `<rect width="240" height="240" fill="#e0a544"/>${[
      'multiply',
      'screen',
      'overlay',
      'darken',
      'lighten',
      'color-dodge',
      'color-burn',
      'hard-light',
      'soft-light',
      'difference',
      'exclusion',
      'hue',
      'saturation',
      'color',
      'luminosity',
      'normal',
    ]
      .map(
        (mode, i) =>
          `<rect x="${(i % 4) * 60 + 5}" y="${Math.floor(i / 4) * 60 + 5}" width="50" height="50" fill="#6080c0" style="mix-blend-mode:${mode}"/>`,
      )
      .join('')}`,
  ),
  isolation: svg(
    `<rect width="240" height="240" fill="#e0a544"/><g style="isolation:isolate"><circle cx="80" cy="120" r="60" fill="#3a5f61"/><circle cx="120" cy="120" r="60" fill="#c2402c" style="mix-blend-mode:multiply"/></g><g opacity=".9"><circle cx="180" cy="120" r="50" fill="#6080c0" style="mix-blend-mode:difference"/></g>`,
  ),
  pictures: svg(
    `<image href="${picture(40, 20)}" x="10" y="10" width="100" height="100"/><image href="${picture(40, 20)}" x="130" y="10" width="100" height="100" preserveAspectRatio="xMidYMid slice"/><image xlink:href="${picture(16, 16)}" x="20" y="130" width="80" height="80" transform="rotate(15 60 170)" opacity=".6"/><image href="${picture(120, 90)}" x="140" y="140" width="90" preserveAspectRatio="none" height="60"/>`,
  ),
  blurs: svg(
    `<defs><filter id="soft"><feGaussianBlur stdDeviation="6"/></filter><filter id="wide" x="-30%" width="160%" color-interpolation-filters="sRGB"><feGaussianBlur stdDeviation="12 1"/></filter></defs><circle cx="70" cy="70" r="45" fill="#c2402c" filter="url(#soft)"/><rect x="130" y="30" width="80" height="80" fill="#3a5f61" filter="url(#wide)"/><g style="filter: blur(3px)"><rect x="40" y="150" width="70" height="60" fill="#e0a544"/></g><g filter="url(#soft)" transform="translate(140 140) scale(2 1)"><rect width="40" height="70" fill="#20302e"/></g>`,
  ),
  shadows:
    svg(`<defs><filter id="drop" x="-50%" y="-50%" width="200%" height="200%"><feDropShadow dx="8" dy="10" stdDeviation="5" flood-color="#20302e" flood-opacity=".6"/></filter>
    <filter id="built" x="-50%" y="-50%" width="200%" height="200%"><feGaussianBlur in="SourceAlpha" stdDeviation="4" result="b"/><feOffset in="b" dx="-6" dy="6" result="o"/><feFlood flood-color="#c2402c"/><feComposite in2="o" operator="in" result="c"/><feMerge><feMergeNode in="c"/><feMergeNode in="SourceGraphic"/></feMerge></filter></defs>
    <circle cx="70" cy="70" r="40" fill="#e0a544" filter="url(#drop)"/><rect x="140" y="30" width="70" height="70" rx="10" fill="#6e9f90" filter="url(#built)"/><g style="filter: drop-shadow(4px 6px 3px rgba(0,0,0,.5)) saturate(40%)"><rect x="40" y="140" width="60" height="60" fill="#c2402c"/></g>`),
  'colour matrices':
    svg(`<defs><filter id="grey"><feColorMatrix type="saturate" values="0"/></filter><filter id="hue"><feColorMatrix type="hueRotate" values="120"/></filter><filter id="swap" color-interpolation-filters="sRGB"><feColorMatrix values="0 1 0 0 0  0 0 1 0 0  1 0 0 0 0  0 0 0 .7 0"/></filter><filter id="luma"><feColorMatrix type="luminanceToAlpha"/></filter>
    <filter id="flood" x="0" y="0" width="1" height="1"><feFlood flood-color="teal" flood-opacity=".5" result="f"/><feComposite in="SourceGraphic" in2="f" operator="atop"/></filter><filter id="xor"><feOffset dx="20" result="o"/><feComposite in="SourceGraphic" in2="o" operator="xor"/></filter></defs>
    ${['grey', 'hue', 'swap', 'luma', 'flood', 'xor'].map((id, i) => `<g filter="url(#${id})" transform="translate(${(i % 3) * 80 + 5} ${Math.floor(i / 3) * 120 + 20})"><circle cx="30" cy="40" r="28" fill="#c2402c"/><circle cx="45" cy="50" r="20" fill="#6080c0"/></g>`).join('')}`),
  visibility: svg(
    `<g visibility="hidden"><rect x="10" y="10" width="60" height="60"/><rect x="90" y="10" width="60" height="60" fill="#c2402c" visibility="visible"/></g><g style="display:none"><rect x="10" y="90" width="60" height="60" visibility="visible"/></g><rect x="90" y="90" width="60" height="60" fill="#3a5f61"/><g visibility="collapse"><circle cx="200" cy="200" r="30"/></g>`,
  ),
  'origins of transforms': svg(
    `<rect x="80" y="80" width="80" height="80" fill="#3a5f61" style="transform: rotate(30deg); transform-origin: 120px 120px"/><rect x="20" y="20" width="40" height="40" fill="#c2402c" transform="scale(1.5)" transform-origin="20 20"/><circle cx="190" cy="60" r="20" fill="#e0a544" style="transform:translate(10px,20px) scale(1.5); transform-origin: center"/>`,
  ),
}
