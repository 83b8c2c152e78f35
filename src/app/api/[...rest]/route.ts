import { RequestError, route } from "@/app/server";

const refuse = route(() => {
  throw new RequestError(404, "There is no such thing here. Go back to the Desk.");
});

const nothing = (request: Request): Promise<Response> => refuse(request, { params: Promise.resolve({}) });

export { nothing as DELETE, nothing as GET, nothing as POST, nothing as PUT };
