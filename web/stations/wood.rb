# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # Scion wood: not built yet, and the page says so.
      class Wood < Base
        get("/") { erb :"front/unbuilt", locals: { name: "Wood", purpose: "cutting, counting, storing and matching scion wood", now: "Wood is not built yet: keep bundles labelled with variety, tree and date." } }
      end
    end
  end
end
