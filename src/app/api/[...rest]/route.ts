import { RequestError, route } from "@/app/server";

const nothing = route(() => {
  throw new RequestError(404, "There is no such thing here. Go back to the Desk.");
});

export { nothing as DELETE, nothing as GET, nothing as POST, nothing as PUT };
