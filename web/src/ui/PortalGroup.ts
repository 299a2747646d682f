import { Portal } from '@headlessui/react'

/** Where the menus and dialogs below it are drawn. The package marks this name for its successor, which it does not export yet. */
// eslint-disable-next-line @typescript-eslint/no-deprecated
export const PortalGroup = Portal.Group
