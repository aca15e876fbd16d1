import type { Schemas } from '../api/client'

export type BlankForm = Schemas['BlankForm']
export type PictureForm = Schemas['PictureForm']

const length = (mm: number | undefined) => (mm ? `${Math.round(mm * 10) / 10} mm` : '')

// blankForm is a blank as people describe it, to be changed.
export function blankForm(b: Schemas['Blank']): BlankForm {
  return {
    surface: b.surface as BlankForm['surface'],
    tone: b.tone,
    shape: b.shape.kind,
    width: length(b.shape.widthMm || b.shape.diameterMm),
    height: length(b.shape.heightMm),
    corner: length(b.shape.cornerMm),
    foot: length(b.shape.footMm),
    thickness: length(b.shape.thicknessMm),
    path: b.shape.path,
    sides: b.sides,
    hangs: b.hangs,
    throughBlank: b.throughBlank,
    drinkware: b.drinkware,
    rimGap: b.rimGapMm === undefined ? '' : `${b.rimGapMm} mm`,
    foodContact: b.foodContact,
    holdsFlame: b.holdsFlame,
    holed: b.holed,
    paintCured: b.paintCured,
    sidesApart: b.sidesApart,
    bound: b.bound,
    forChildren: b.forChildren,
  }
}

export function pictureForm(p: Schemas['Picture'], artworkId?: number): PictureForm {
  return {
    artworkId,
    kind: p.kind,
    carrier: p.carrier,
    gsm: p.gsm,
    mirrored: p.mirrored,
    width: length(p.widthMm),
    height: length(p.heightMm),
    ppi: p.ppi,
    inkShare: p.inkShare,
    rights: p.rights,
    round: p.round,
    slogan: p.slogan,
  }
}

const number = (text: string | undefined) => {
  const found = /(\d+(?:\.\d+)?) *(mm|cm|in|")?/.exec(text ?? '')
  if (!found) return 0
  const factor = found[2] === 'cm' ? 10 : found[2] === 'in' || found[2] === '"' ? 25.4 : 1
  return Number(found[1]) * factor
}

// drawnBlank is a blank to draw while its form is being filled, as far as it can be read.
export function drawnBlank(f: BlankForm): Schemas['Blank'] {
  const w = number(f.width) || 100
  const h = number(f.height) || 100
  const flat = ['rectangle', 'oval', 'arch', 'heart', 'own'].includes(f.shape)
  return {
    surface: f.surface,
    tone: f.tone,
    hangs: f.hangs,
    shape: {
      kind: f.shape,
      thicknessMm: 0,
      widthMm: flat ? w : undefined,
      diameterMm: flat ? undefined : w,
      heightMm: h,
      cornerMm: f.shape === 'rectangle' ? number(f.corner) : undefined,
      path: f.shape === 'own' ? f.path : undefined,
      footMm: f.shape === 'tapered' ? number(f.foot) || w * 0.75 : undefined,
    },
  }
}

// factNames are what the fields of a product's facts are called.
export const factNames: Record<string, string> = {
  'blank.surface': 'Surface',
  'blank.tone': 'Tone',
  'blank.shape': 'Shape',
  'blank.width': 'Width',
  'blank.height': 'Height',
  'blank.corner': 'Corner radius',
  'blank.foot': 'Across at the foot',
  'blank.thickness': 'Thickness',
  'blank.path': 'Outline',
  'blank.sides': 'Printed sides',
  'blank.hangs': 'It hangs',
  'blank.throughBlank': 'Seen through the blank',
  'blank.drinkware': 'Drinkware',
  'blank.rimGap': 'Gap under the rim',
  'blank.foodContact': 'Food contact',
  'blank.holdsFlame': 'It holds a flame',
  'blank.holed': 'Bought with its hole',
  'blank.paintCured': 'Paint over three days old',
  'blank.sidesApart': 'Sides laid in one sitting',
  'blank.bound': 'Punched and bound',
  'blank.forChildren': 'For children',
  'picture.artworkId': 'Picture',
  'picture.round': 'Cut round',
  'picture.slogan': 'The same words on all',
  'picture.kind': 'Printed with',
  'picture.carrier': 'On',
  'picture.gsm': 'Paper',
  'picture.width': 'Picture width',
  'picture.height': 'Picture height',
  'picture.ppi': 'Pixels an inch',
  'picture.inkShare': 'Share that is covered',
  'picture.rights': 'The picture is',
  lettered: 'Lettering',
  mirrored: 'The print file is',
}
