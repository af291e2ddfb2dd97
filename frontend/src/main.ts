import "@fontsource-variable/source-sans-3/wght.css";
import { VueQueryPlugin } from "@tanstack/vue-query";
import { createApp } from "vue";
import App from "./App.vue";
import { Refusal, whenSignedOut } from "./api/client";
import { router } from "./router";
import { forget } from "./session";
import "./style.css";

whenSignedOut(() => {
  forget();
  const here = router.currentRoute.value;
  if (here.name !== "sign-in") void router.push({ name: "sign-in", query: { to: here.fullPath } });
});

createApp(App)
  .use(router)
  .use(VueQueryPlugin, {
    queryClientConfig: {
      defaultOptions: {
        queries: {
          retry: (count, why) => count < 2 && why instanceof Refusal && why.status === 0,
          staleTime: 2000,
        },
      },
    },
  })
  .mount("#app");
