# frozen_string_literal: true

module Vestry
  module Web
    module Stations
      # When the bark slips: not built yet, and the page says so.
      class Slip < Base
        get("/") { erb :"front/unbuilt", locals: { name: "Slip", purpose: "forecasting when each tree's bark slips and choosing the days", now: "Slip is not built yet: try a small test cut on each tree before you take the saw to it." } }
      end
    end
  end
end
