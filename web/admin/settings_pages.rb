# frozen_string_literal: true

module Vestry
  module Web
    module Admin
      # Where the orchard lies, and how it works.
      class SettingsPages < Base
        helpers do
          def show(reading = nil)
            erb :"settings/orchard", locals: { reading: reading ||
                                               Contracts::OrchardSettingsForm.blank(current_values) }
          end

          def current_values
            { name: orchard.name, latitude: orchard.latitude, longitude: orchard.longitude,
              altitude: Core::Measure.say_metres(orchard.altitude_m, orchard.units),
              declination: orchard.declination_deg,
              time_zone: orchard.time_zone, grazing: orchard.grazing,
              wind_from: orchard.wind_from_deg, reach: length(orchard.reach_mm), units: orchard.units,
              school: orchard.school, weather_place: orchard.weather_place, weather_url: orchard.weather_url,
              version: orchard.version }
          end
        end

        get("/") { show }

        post "/" do
          reading = read(Contracts::OrchardSettingsForm, current_values)
          try(reading, ->(wrong) { show(wrong) }) do |v|
            Deeds::SettleOrchard.call(orchard, reading.changed(Contracts::OrchardSettingsForm.facts(v)), by: actor,
                                      version: v[:version])
            notice "The orchard's settings are kept."
            redirect to("settings")
          end
        end
      end
    end
  end
end
