# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A limb's measurements.
      class MeasureLimbForm < Form
        lengths girth: "girth", length: "length", fork: "fork", bark_thickness: "bark", outer: "stub", outer_at: "cut",
                unsound_from: "cut", unsound_to: "cut"
        columns girth_mm: :girth, wide_mm: :girth, narrow_mm: :girth, length_mm: :length, fork_mm: :fork,
                bearing_deg: :bearing, rise_deg: :rise, flat_deg: :flat, outer_mm: :outer, outer_at_mm: :outer_at,
                bark_mm: :bark_thickness, thickness_typed: :girth, length_typed: :length, leader: :leader
        numbers rise: "°"

        params do
          required(:girth).filled(:string)
          optional(:length).filled(:string)
          optional(:fork).filled(:string)
          optional(:bearing).filled(Form::BEARING)
          optional(:rise).filled(:integer, gteq?: -90, lteq?: 90)
          optional(:bark).filled(:string, included_in?: Core::Survey::LimbLine::BARKS)
          optional(:straight).filled(:string, included_in?: Core::Survey::LimbLine::STRAIGHT.values)
          optional(:leader).filled(:bool)
          optional(:flat).filled(Form::BEARING)
          optional(:bark_thickness).filled(:string)
          optional(:outer).filled(:string)
          optional(:outer_at).filled(:string)
          optional(:unsound_from).filled(:string)
          optional(:unsound_to).filled(:string)
          optional(:damage).filled(:string, max_size?: 500)
          optional(:version).filled(:integer)
        end

        [%i[outer outer_at], %i[unsound_from unsound_to]].each do |one, other|
          rule(one, other) { key(values[one] ? other :
                                 one).failure("is missing") if values[one].nil? ^ values[other].nil? }
        end

        # A reading as columns of a limb: those that were changed.
        def self.to_row(reading)
          { **measured(reading), **unsound(reading) }
        end

        # A stretch that is bent, damaged or decayed, which is two fields and one column.
        def self.unsound(reading)
          return {} if (%i[unsound_from unsound_to] - reading.unchanged).empty?

          stretch = reading.values.values_at(:unsound_from, :unsound_to).compact.sort
          { unsound_mm: stretch }
        end

        def self.measured(reading)
          values = reading.values
          reading.changed({ girth_mm: values[:girth], wide_mm: nil, narrow_mm: nil,
                            thickness_typed: reading.typed["girth"], length_mm: values[:length],
                            length_typed: reading.typed["length"], fork_mm: values[:fork],
                            bearing_deg: values[:bearing] && values[:bearing] % 360, rise_deg: values[:rise],
                            flat_deg: values[:flat] && values[:flat] % 360, bark_mm: values[:bark_thickness],
                            leader: values[:leader] || false, bark: values[:bark],
                            straight: values[:straight], damage: values[:damage],
                            outer_mm: values[:outer], outer_at_mm: values[:outer_at] })
        end
        private_class_method :unsound, :measured
      end
    end
  end
end
