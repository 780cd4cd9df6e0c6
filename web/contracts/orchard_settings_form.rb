# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # An orchard's settings.
      class OrchardSettingsForm < Form
        lengths reach: "fork"
        columns reach_mm: :reach, wind_from_deg: :wind_from, altitude_m: :altitude, declination_deg: :declination

        # What was read, as an orchard keeps it.
        def self.facts(values)
          { **values.slice(:name, :latitude, :longitude, :time_zone, :grazing, :units, :school),
            altitude_m: values[:altitude] || 0.0, declination_deg: values[:declination],
            wind_from_deg: values[:wind_from] && values[:wind_from].round % 360, reach_mm: values[:reach] }
        end

        params do
          required(:name).filled(:string, max_size?: Records::Orchard::LONGEST_NAME)
          required(:latitude).filled(Form::LATITUDE)
          required(:longitude).filled(Form::LONGITUDE)
          optional(:altitude).filled(:float, gteq?: -500, lteq?: 6000)
          optional(:declination).filled(:float, gteq?: -180, lteq?: 180)
          required(:time_zone).filled(:string, included_in?: Records::Orchard.time_zones)
          required(:grazing).filled(:string, included_in?: Records::Orchard::GRAZING)
          optional(:wind_from).filled(Form::BEARING)
          required(:reach).filled(:string)
          required(:units).filled(:string, included_in?: Core::Measure::UNITS)
          required(:school).filled(:string, included_in?: Core::Rulebook.shipped.school_names)
          optional(:version).filled(:integer)
        end
      end
    end
  end
end
