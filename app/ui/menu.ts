/** How menus look. */
export const MENU = 'z-50 min-w-40 rounded-xl bg-panel p-1.5 shadow-3'
export const MENU_ITEM = 'flex h-8 items-center gap-2.5 rounded-lg px-2.5 outline-none data-[highlighted]:bg-tint'
