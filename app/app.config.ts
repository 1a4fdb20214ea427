/** The look of the library's parts lives here and in assets/tokens.css, never in components. */
export default defineAppConfig({
  ui: {
    icons: {
      close: 'i-lucide-x',
      search: 'i-lucide-search',
      check: 'i-lucide-check',
      chevronDown: 'i-lucide-chevron-down',
      loading: 'i-lucide-loader-circle',
    },
    button: {
      slots: {
        base: 'min-h-11 rounded-[4px] font-semibold text-[15px] px-4 justify-center border-[1.5px] border-current disabled:opacity-50 disabled:border-dashed',
      },
      compoundVariants: [
        { variant: 'ghost', class: 'border-transparent' },
        { variant: 'link', class: 'border-transparent px-1' },
      ],
      defaultVariants: { color: 'primary', variant: 'outline', size: 'lg' },
    },
    input: {
      slots: { root: 'w-full', base: 'min-h-11 rounded-[4px] bg-(--sheet) text-base ring-[1.5px]' },
      variants: { variant: { outline: 'bg-(--sheet)' } },
      defaultVariants: { size: 'lg' },
    },
    inputDate: {
      slots: { base: 'min-h-11 w-full rounded-[4px] bg-(--sheet) text-base ring-[1.5px] gap-0.5', segment: 'font-sans' },
      variants: { variant: { outline: 'bg-(--sheet)' }, size: { lg: { segment: 'not-data-[segment=literal]:w-auto min-w-5' } } },
      defaultVariants: { size: 'lg' },
    },
    inputTime: {
      slots: { base: 'min-h-11 w-full rounded-[4px] bg-(--sheet) text-base ring-[1.5px] gap-0.5', segment: 'font-sans' },
      variants: { variant: { outline: 'bg-(--sheet)' }, size: { lg: { segment: 'not-data-[segment=literal]:w-auto min-w-5' } } },
      defaultVariants: { size: 'lg' },
    },
    calendar: { slots: { cellTrigger: 'rounded-[4px] size-9' } },
    popover: { slots: { content: 'shadow-none ring-[1.5px] ring-(--ink) rounded-[4px] bg-(--paper)' } },
    textarea: { slots: { root: 'w-full', base: 'rounded-[4px] bg-(--sheet) text-base ring-[1.5px]' }, defaultVariants: { size: 'lg' } },
    select: {
      slots: {
        base: 'min-h-11 w-full rounded-[4px] bg-(--sheet) text-base ring-[1.5px]',
        content: 'shadow-none ring-[1.5px] ring-(--ink) rounded-[4px]',
      },
      variants: { variant: { outline: 'bg-(--sheet)' } },
      defaultVariants: { size: 'lg' },
    },
    modal: {
      slots: { title: 'text-[21px] leading-tight' },
      // Beside the variants of the library: what stands in slots is overruled by them.
      variants: {
        fullscreen: { false: { content: 'shadow-none ring-[1.5px] ring-(--ink) rounded-[4px] bg-(--paper)' } },
        overlay: { true: { overlay: 'bg-black/60' } },
      },
    },
    slideover: {
      slots: {
        overlay: 'bg-black/60',
        content: 'shadow-none sm:shadow-none ring-[1.5px] ring-(--ink) bg-(--paper)',
        // Clear of the cross that closes it.
        title: 'text-[21px] leading-tight pr-10',
      },
    },
    dropdownMenu: { slots: { content: 'shadow-none ring-[1.5px] ring-(--ink) rounded-[4px] min-w-52' } },
    formField: { slots: { label: 'font-semibold', error: 'text-(--live)' } },
    checkbox: {
      slots: { base: 'rounded-[3px] size-6', root: 'min-h-11 items-center', container: 'h-6' },
      variants: { size: { md: { base: 'size-6', container: 'h-6' } }, disabled: { true: { root: 'opacity-100', base: 'opacity-60' } } },
    },
    commandPalette: { slots: { root: 'divide-(--line)' } },
  },
})
