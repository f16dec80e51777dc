/** What a customer buys is read from so many of their last orders: what they buy now, found as quickly for those who order every day. */
export const RECENT_ORDERS = 200;
