# frozen_string_literal: true

module Vestry
  module Web
    module Grounds
      # Where the orchard lies, and how it works.
      class Settings < Base
        helpers do
          def show(reading = nil)
            erb :"settings/orchard", locals: { reading: reading || Contracts::OrchardSettings.blank(standing) }
          end

          def standing
            { name: orchard.name, latitude: orchard.latitude, longitude: orchard.longitude,
              time_zone: orchard.time_zone, grazing: orchard.grazing,
              wind_from: orchard.wind_from_deg, reach: length(orchard.reach_mm), units: orchard.units,
              school: orchard.school, version: orchard.version }
          end
        end

        get("/") { show }

        post "/" do
          reading = read(Contracts::OrchardSettings, standing)
          try(reading, ->(wrong) { show(wrong) }) do |v|
            Deeds::SettleOrchard.call(orchard, reading.changed(Contracts::OrchardSettings.facts(v)), by: actor,
                                      version: v[:version])
            notice "The orchard's settings are kept."
            redirect to("settings")
          end
        end
      end
    end
  end
end
