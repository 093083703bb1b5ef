/** Icons of our own, in the manner of the icon package's. */
import type { ReactNode } from 'react'

interface IconProps {
  readonly size?: number
  readonly className?: string
}

const icon = (children: ReactNode, name: string) => {
  const Icon = ({ size = 20, className }: IconProps) => (
    <svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke="currentColor"
      strokeWidth={1.75}
      strokeLinecap="round"
      strokeLinejoin="round"
      className={className}
      aria-hidden
    >
      {children}
    </svg>
  )
  Icon.displayName = name
  return Icon
}

/** Ring, rod and bead. */
export const BoneIcon = icon(
  <>
    <circle cx="6.500" cy="17.500" r="3.200" />
    <path d="M7.600 14 17.300 5.600M10 16.400l8.200-9.800" />
    <circle cx="18.500" cy="5.500" r="1.400" fill="currentColor" />
  </>,
  'BoneIcon',
)

export const DrawBoneIcon = icon(
  <>
    <circle cx="5.500" cy="18.500" r="2.800" />
    <path d="M6.600 15.400 14 8.400M8.600 17.600l6.200-8.400" />
    <path d="M17.500 14v7M14 17.500h7" />
  </>,
  'DrawBoneIcon',
)

/** A limb with its tip on the way. */
export const PoseIcon = icon(
  <>
    <circle cx="5" cy="19" r="2.400" />
    <path d="M6.600 17.100 12 12l-2.500-6" />
    <circle cx="9" cy="4.500" r="1.500" fill="currentColor" />
    <path d="M14 4.500c3 .6 5 2.600 5.500 5.600M19.500 10.100l1.500-2.200M19.500 10.100l-2.300-1.300" />
  </>,
  'PoseIcon',
)

export const PivotIcon = icon(
  <>
    <circle cx="12" cy="12" r="4" />
    <path d="M12 2.500V6M12 18v3.500M2.500 12H6M18 12h3.500" />
  </>,
  'PivotIcon',
)

/** The control bar with its cords: the product's mark. */
export function Mark({ size = 34 }: { size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 34 34" fill="none" strokeLinecap="round" aria-hidden>
      <path d="M3 8c8-5 20-5 28 0" stroke="var(--ink)" strokeWidth="3" />
      <path d="M7 7c3 6 4 10 3 15M26 7c1.500 6 0 9-1 12" stroke="var(--cord)" strokeWidth="1.700" />
      <circle cx="10" cy="25" r="3.700" stroke="var(--ink)" strokeWidth="2.600" />
      <path d="m14.500 25.500 8.500-3.500-5.500 5.500z" fill="var(--ink)" />
      <circle cx="25" cy="21.500" r="3" fill="var(--cord)" />
    </svg>
  )
}
