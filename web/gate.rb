# frozen_string_literal: true

module Vestry
  module Web
    # Finds the orchard and the station an address names. No station sees a request that has
    # not passed here.
    class Gate
      STATIONS = { "survey" => Stations::Survey, "plan" => Stations::Plan, "wood" => Stations::Wood, "slip" => Stations::Slip,
                   "graft" => Stations::Graft, "tend" => Stations::Tend, "tally" => Stations::Tally }.freeze
      ADDRESS = %r{\A/o/([a-z0-9-]+)(?:/([a-z]+)(/.*)?)?/?\z}

      def call(env)
        place = ADDRESS.match(env["PATH_INFO"])
        return Front.call(env) unless place

        orchard = Records::Orchard.first(slug: place[1])
        station = STATIONS[place[2] || "survey"]
        return Front.call(env.merge("PATH_INFO" => "/nothing-here")) unless orchard && station

        env["vestry.orchard"] = orchard
        env["SCRIPT_NAME"] = "/o/#{orchard.slug}/#{place[2] || 'survey'}"
        env["PATH_INFO"] = place[3] || "/"
        station.call(env)
      end
    end
  end
end
