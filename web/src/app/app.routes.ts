import { inject } from '@angular/core';
import { Router, type CanActivateFn, type Routes } from '@angular/router';
import { Session } from './access';

/** Everything but the log-in needs someone to be logged in; the address asked for is gone to afterwards. */
const loggedIn: CanActivateFn = async (_route, state) => {
  const session = inject(Session);
  const router = inject(Router);
  if (!(await session.restore())) return router.createUrlTree(['/log-in'], { queryParams: { to: state.url } });
  // Whose password somebody else knows chooses one first.
  return session.user()?.mustChangePassword && state.url !== '/you' ? router.createUrlTree(['/you']) : true;
};

export const routes: Routes = [
  { path: 'log-in', title: 'Log in · Nockwright', loadComponent: () => import('./access/log-in').then((m) => m.LogIn) },
  {
    path: '',
    canActivate: [loggedIn],
    canActivateChild: [loggedIn],
    children: [
      { path: '', pathMatch: 'full', redirectTo: 'orders' },
      { path: 'orders', title: 'Orders · Nockwright', loadComponent: () => import('./orders/list/order-list').then((m) => m.OrderListPage) },
      { path: 'orders/new', title: 'New order · Nockwright', loadComponent: () => import('./orders/new-order').then((m) => m.NewOrder) },
      { path: 'orders/:id', title: 'Order · Nockwright', loadComponent: () => import('./orders/order-sheet').then((m) => m.OrderSheet) },
      {
        path: 'customers/:id',
        title: 'Customer · Nockwright',
        loadComponent: () => import('./customers/page/customer-sheet').then((m) => m.CustomerSheet),
      },
      {
        path: 'customers/:id/money',
        title: 'What a customer owes · Nockwright',
        loadComponent: () => import('./billing/money-page').then((m) => m.MoneyPage),
      },
      { path: 'invoices', title: 'Invoices · Nockwright', loadComponent: () => import('./billing/invoice-list').then((m) => m.InvoiceList) },
      { path: 'invoices/bill', title: 'To bill · Nockwright', loadComponent: () => import('./billing/bill-page').then((m) => m.BillPage) },
      { path: 'invoices/:id', title: 'Invoice · Nockwright', loadComponent: () => import('./billing/invoice-sheet').then((m) => m.InvoiceSheet) },
      { path: 'bank', title: 'Bank · Nockwright', loadComponent: () => import('./billing/bank-page').then((m) => m.BankPage) },
      { path: 'ledger', title: 'Ledger · Nockwright', loadComponent: () => import('./ledger/ledger-page').then((m) => m.LedgerPage) },
      { path: 'ledger/entries', title: 'Entries · Nockwright', loadComponent: () => import('./ledger/entry-list').then((m) => m.EntryList) },
      { path: 'ledger/accounts/:account', title: 'Account · Nockwright', loadComponent: () => import('./ledger/entry-list').then((m) => m.EntryList) },
      {
        path: 'ledger/reconciliation',
        title: 'Reconciliation · Nockwright',
        loadComponent: () => import('./ledger/reconciliation-page').then((m) => m.ReconciliationPage),
      },
      { path: 'shortages', title: 'Shortages · Nockwright', loadComponent: () => import('./shortages/shortage-board').then((m) => m.ShortageBoard) },
      { path: 'supply', title: 'Supply · Nockwright', loadComponent: () => import('./supply/purchase-list').then((m) => m.PurchaseList) },
      {
        path: 'supply/new',
        title: 'New purchase order · Nockwright',
        data: { paper: 'purchase' },
        loadComponent: () => import('./supply/new-paper').then((m) => m.NewPaper),
      },
      {
        path: 'supply/inside',
        title: 'Transfers and assemblies · Nockwright',
        loadComponent: () => import('./supply/inside/inside-list').then((m) => m.InsideList),
      },
      {
        path: 'supply/transfers/new',
        title: 'New transfer · Nockwright',
        data: { paper: 'transfer' },
        loadComponent: () => import('./supply/new-paper').then((m) => m.NewPaper),
      },
      {
        path: 'supply/assemblies/new',
        title: 'New assembly · Nockwright',
        data: { paper: 'assembly' },
        loadComponent: () => import('./supply/new-paper').then((m) => m.NewPaper),
      },
      {
        path: 'supply/transfers/:id',
        title: 'Transfer · Nockwright',
        loadComponent: () => import('./supply/inside/transfer-sheet').then((m) => m.TransferSheet),
      },
      {
        path: 'supply/assemblies/:id',
        title: 'Assembly · Nockwright',
        loadComponent: () => import('./supply/inside/assembly-sheet').then((m) => m.AssemblySheet),
      },
      {
        path: 'supply/messages',
        title: 'Supplier responses · Nockwright',
        loadComponent: () => import('./supply/exchange/message-list').then((m) => m.MessageList),
      },
      { path: 'supply/reorder', title: 'What to buy · Nockwright', loadComponent: () => import('./supply/reorder/reorder-list').then((m) => m.ReorderList) },
      {
        path: 'supply/suppliers',
        title: 'Suppliers · Nockwright',
        loadComponent: () => import('./supply/suppliers/supplier-list').then((m) => m.SupplierList),
      },
      {
        path: 'supply/suppliers/:code',
        title: 'Supplier · Nockwright',
        loadComponent: () => import('./supply/suppliers/supplier-sheet').then((m) => m.SupplierSheet),
      },
      {
        path: 'supply/invoices',
        title: 'Supplier invoices · Nockwright',
        loadComponent: () => import('./payables/supplier-invoice-list').then((m) => m.SupplierInvoiceList),
      },
      {
        path: 'supply/invoices/new',
        title: 'Enter supplier invoice · Nockwright',
        loadComponent: () => import('./payables/enter-invoice').then((m) => m.EnterInvoice),
      },
      {
        path: 'supply/invoices/:id',
        title: 'Supplier invoice · Nockwright',
        loadComponent: () => import('./payables/supplier-invoice-sheet').then((m) => m.SupplierInvoiceSheet),
      },
      { path: 'supply/:id', title: 'Purchase · Nockwright', loadComponent: () => import('./supply/purchase-sheet').then((m) => m.PurchaseSheet) },
      { path: 'receiving', title: 'Receiving · Nockwright', loadComponent: () => import('./supply/receiving/receiving-list').then((m) => m.ReceivingList) },
      {
        path: 'receiving/:id',
        title: 'Receive · Nockwright',
        loadComponent: () => import('./supply/receiving/receiving-sheet').then((m) => m.ReceivingSheet),
      },
      { path: 'shipping', title: 'Shipping · Nockwright', loadComponent: () => import('./shipping/shipping-board').then((m) => m.ShippingBoardPage) },
      {
        path: 'shipping/rules',
        title: 'Pick rules · Nockwright',
        loadComponent: () => import('./shipping/rules/pick-rules-page').then((m) => m.PickRulesPage),
      },
      {
        path: 'shipping/cartons',
        title: 'Cartons · Nockwright',
        loadComponent: () => import('./shipping/cartons/carton-types-page').then((m) => m.CartonTypesPage),
      },
      { path: 'counter', title: 'Counter · Nockwright', loadComponent: () => import('./counter/counter-list').then((m) => m.CounterList) },
      { path: 'counter/:id', title: 'Counter · Nockwright', loadComponent: () => import('./counter/basket-sheet').then((m) => m.BasketSheet) },
      { path: 'pick', title: 'Pick · Nockwright', loadComponent: () => import('./shipping/pick/pick-walk').then((m) => m.PickWalk) },
      { path: 'pack/:id', title: 'Pack · Nockwright', loadComponent: () => import('./shipping/pack/pack-sheet').then((m) => m.PackSheet) },
      { path: 'plan', title: 'Plan · Nockwright', loadComponent: () => import('./plan/plan-sheet').then((m) => m.PlanSheet) },
      { path: 'calls', title: 'Calls · Nockwright', loadComponent: () => import('./worklist/call-list').then((m) => m.CallListPage) },
      { path: 'prices', title: 'Prices · Nockwright', loadComponent: () => import('./pricing/contract-list').then((m) => m.ContractList) },
      { path: 'prices/contracts/:id', title: 'Contract · Nockwright', loadComponent: () => import('./pricing/contract-sheet').then((m) => m.ContractSheet) },
      { path: 'prices/lists/:code', title: 'Price list · Nockwright', loadComponent: () => import('./pricing/price-list-sheet').then((m) => m.PriceListSheet) },
      { path: 'mail', title: 'Mail · Nockwright', loadComponent: () => import('./mail/mail-list').then((m) => m.MailListPage) },
      { path: 'you', title: 'Your log-in · Nockwright', loadComponent: () => import('./users/own-page').then((m) => m.OwnPage) },
      { path: 'users', title: 'Users · Nockwright', loadComponent: () => import('./users/user-list').then((m) => m.UserList) },
      { path: 'firm', title: 'Firm · Nockwright', loadComponent: () => import('./firm/firm-page').then((m) => m.FirmPage) },
      { path: 'items', title: 'Items · Nockwright', loadComponent: () => import('./items/stock-list').then((m) => m.StockList) },
      { path: 'items/places', title: 'Stock by place · Nockwright', loadComponent: () => import('./items/places/place-list').then((m) => m.PlaceList) },
      {
        path: 'items/serials/:id',
        title: 'Serial number · Nockwright',
        loadComponent: () => import('./items/serials/serial-sheet').then((m) => m.SerialSheet),
      },
      {
        path: 'items/:code/serials',
        title: 'Serial numbers · Nockwright',
        loadComponent: () => import('./items/serials/serial-list').then((m) => m.SerialList),
      },
      { path: 'items/:code', title: 'Item · Nockwright', loadComponent: () => import('./items/item-sheet').then((m) => m.ItemSheet) },
    ],
  },
  { path: '**', redirectTo: '' },
];
