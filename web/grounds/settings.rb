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
            { name: orchard.name, latitude: orchard.latitude, longitude: orchard.longitude, time_zone: orchard.time_zone, grazing: orchard.grazing,
              wind_from: orchard.wind_from_deg, reach: length(orchard.reach_mm), units: orchard.units, school: orchard.school, version: orchard.version }
          end
        end

        get("/") { show }

        post "/" do
          reading = Contracts::OrchardSettings.new(units: orchard.units).read(params, standing)
          begin
            raise Deeds::Refused, {} unless reading.ok?

            v = reading.values
            Deeds::SettleOrchard.call(orchard, { name: v[:name], latitude: v[:latitude], longitude: v[:longitude], time_zone: v[:time_zone], grazing: v[:grazing],
                                                 wind_from_deg: v[:wind_from] && v[:wind_from] % 360, reach_mm: v[:reach], units: v[:units], school: v[:school] },
                                      by: actor, version: v[:version])
            notice "The orchard's settings are kept."
            redirect to("settings")
          rescue Deeds::Refused => e
            status e.is_a?(Deeds::Conflict) ? 409 : 422
            show(reading.with(e.errors))
          end
        end
      end
    end
  end
end
