# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # An orchard's settings.
      class OrchardSettingsForm < Form
        lengths reach: "reach"
        ways :altitude
        columns reach_mm: :reach, wind_from_deg: :wind_from, altitude_m: :altitude, declination_deg: :declination

        # A bare number is in the unit that is chosen with it.
        def read(params, standing = {}, exact = {})
          chosen = params.to_h.transform_keys(&:to_s)["units"]
          return super unless Core::Measure::UNITS.include?(chosen) && chosen != units

          self.class.new(units: chosen).read(params, standing, exact)
        end

        # What was read, as an orchard keeps it.
        def self.facts(values)
          { **values.slice(:name, :latitude, :longitude, :time_zone, :grazing, :units, :school),
            altitude_m: values[:altitude] || 0.0, declination_deg: values[:declination],
            **{ weather_place: nil, weather_url: nil }.merge(values.slice(:weather_place, :weather_url)),
            wind_from_deg: values[:wind_from] && values[:wind_from].round % 360, reach_mm: values[:reach] }
        end

        numbers declination: "°"

        params do
          required(:name).filled(:string, max_size?: Records::Orchard::LONGEST_NAME)
          required(:latitude).filled(Form::LATITUDE)
          required(:longitude).filled(Form::LONGITUDE)
          optional(:altitude).filled(Form::HEIGHT, gteq?: -500, lteq?: 6000)
          optional(:declination).filled(:float, gteq?: -180, lteq?: 180)
          required(:time_zone).filled(:string, included_in?: Records::Orchard.time_zones)
          required(:grazing).filled(:string, included_in?: Records::Orchard::GRAZING)
          optional(:wind_from).filled(Form::BEARING)
          required(:reach).filled(:string)
          required(:units).filled(:string, included_in?: Core::Measure::UNITS)
          required(:school).filled(:string, included_in?: Core::Rulebook.shipped.school_names)
          optional(:weather_place).filled(:string, max_size?: 100, format?: Records::Archive::OrchardFacts::PLACE)
          optional(:weather_url).filled(:string, max_size?: 500)
          optional(:version).filled(:integer)
        end

        rule(:weather_url) do
          key.failure("is an address that begins with https:// or http://") if key? && value && !address?(value)
        end

        private

        def address?(text)
          uri = URI(text.gsub(/\{(place|from|to)\}/, "x"))
          uri.is_a?(URI::HTTP) && !uri.host.to_s.empty?
        rescue URI::InvalidURIError
          false
        end
      end
    end
  end
end
