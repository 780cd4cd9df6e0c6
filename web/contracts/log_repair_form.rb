# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # A repair as it was done.
      class LogRepairForm < Form
        lengths left: "fork"
        columns left_mm: :left
        FIXINGS = { "pins" => "pins or nails", "bound" => "bound round", "wedged" => "wedged alone" }.freeze

        params do
          required(:repaired_on).filled(Form::DAY)
          required(:course).filled(:string, included_in?: Core::Repair::Mending::COURSES)
          optional(:scions).maybe(:array, max_size?: 40)
          optional(:bearings).filled(:string, max_size?: 200)
          # Bearings of dead scions, beside which new ones were set.
          optional(:beside).value(:array, max_size?: 40).each(:integer, gteq?: 0, lteq?: 360)
          optional(:thicknesses).maybe(:hash)
          optional(:wrap).filled(:string, included_in?: Core::Tend::Care.choices("wrap"))
          optional(:seal).filled(:string, included_in?: Core::Tend::Care.choices("seal"))
          optional(:fixing).filled(:string, included_in?: FIXINGS.keys)
          optional(:bark_slip).filled(:string, included_in?: %w[clean reluctant none])
          optional(:bundle).filled(:integer, gt?: 0)
          optional(:shoots).filled(:integer, gteq?: 0, lteq?: 60)
          # How high the stump stands, where a stem was cut.
          optional(:left).filled(:string)
          optional(:conditions).filled(:string, max_size?: 500)
          optional(:client_key).filled(:string, :uuid_v4?)
        end

        # The scions that were set: those ticked of the places, and others by their bearing.
        #
        # @param places [Array<Hash>] +number+ and +bearing_deg+
        # @raise [Deeds::Refused]
        def self.scions(values, places, units)
          ticked = Array(values[:scions]).map(&:to_s)
          thick = (values[:thicknesses] || {}).transform_keys(&:to_s)
          found = places.select { |place| ticked.include?(place[:number].to_s) }.map do |place|
            { bearing_deg: place[:bearing_deg].to_f, thickness_mm: thickness(thick[place[:number].to_s], place[:number],
              units) }
          end
          found + others(values)
        end

        # Those set beside dead ones, and at bearings that are typed.
        def self.others(values)
          (Array(values[:beside]) + bearings(values[:bearings]))
            .map { |bearing| { bearing_deg: bearing.to_f % 360, thickness_mm: nil } }
        end

        # The same, for what is done with scions; nil for what is not.
        def self.set(values, places, units)
          Core::Repair::Mending::BRIDGED.include?(values[:course]) ? scions(values, places, units) : nil
        end

        def self.bearings(text, field: :bearings)
          text.to_s.split(/[\s,;]+/).reject(&:empty?).map do |word|
            named = Core::Survey::LimbLine::COMPASS[word.downcase]
            number = named || Float(word.delete("°"), exception: false)
            unless number&.between?(0, 360)
              raise Deeds::Refused,
                    field => ["“#{word[0, 20]}” is no bearing: degrees from 0 to 360, or a compass point such as NE"]
            end

            number.to_f % 360
          end
        end

        def self.thickness(text, number, units)
          return nil if text.to_s.strip.empty?

          DiameterRun.read(text.to_s, units).first
        rescue Core::BadInput => e
          raise Deeds::Refused, scions: ["scion #{number}: #{e.allowed.sub(/\Anumber 1, /, '')}"]
        end
        private_class_method :thickness, :others
      end
    end
  end
end
