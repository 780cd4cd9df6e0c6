# frozen_string_literal: true

require "dry/schema"

module Vestry
  module Web
    module Contracts
      # What an address may ask for behind its question mark, whichever page it is: a name means the same everywhere.
      # What does not fit is as if it had not been asked for.
      module Query
        # What numbers a row.
        LAST_NUMBER = 2_147_483_647

        SCHEMA = Dry::Schema.Params do
          # Which page of a list; rows older than a line of history; a year or a season.
          optional(:page).filled(:integer, gteq?: 1, lteq?: 10_000)
          optional(:before).filled(:integer, gteq?: 1)
          %i[season year after].each { |name| optional(name).filled(:integer, gteq?: 1700, lteq?: 2300) }
          # A part of the orchard: a row of trees, or a window in metres.
          optional(:row).filled(:string, max_size?: 40)
          %i[x y w].each { |name| optional(name).filled(:float, gt?: -1e6, lt?: 1e6) }
          optional(:species).filled(:string, included_in?: Core::Rulebook.shipped.species_names)
          optional(:variety).filled(:integer, gteq?: 1, lteq?: LAST_NUMBER)
          optional(:state).filled(:string, included_in?: %w[open planned grafted trouble])
          optional(:due).filled(:string, eql?: "yes")
          # Whose work, and how far ahead.
          optional(:walk).filled(:string, max_size?: 60)
          optional(:did).filled(:string, max_size?: 80, format?: /\A(graft|wound):\d+:[\w:-]+\z/)
          optional(:who).filled(:string, max_size?: 80)
          optional(:span).filled(:string, included_in?: %w[today week season])
          # Which limb, seen from where.
          optional(:limb).filled(:integer, gteq?: 1, lteq?: LAST_NUMBER)
          optional(:from).filled(:integer, included_in?: Drawings::Elevation::BEARINGS.keys)
          # Which day; where one stands, or what is looked for; which paper.
          optional(:on).filled(Form::DAY)
          optional(:lat).filled(:float, gteq?: -90, lteq?: 90)
          optional(:lon).filled(:float, gteq?: -180, lteq?: 180)
          optional(:q).filled(:string, max_size?: 80)
          optional(:labels).filled(:string, included_in?: Sheets::Labels::SHEETS.keys)
          optional(:paper).filled(:string, included_in?: Sheets::Paper::SIZES.keys)
        end

        # @param params [Hash{String=>Object}] as they came
        # @return [Hash{Symbol=>Object}] those that are known and fit
        def self.read(params)
          asked = SCHEMA.call(params.select { |_, value| value.is_a?(String) }.transform_values { |text| plain(text) })
          asked.to_h.except(*asked.errors.to_h.keys).select { |_, value| value != "" }.freeze
        end

        def self.plain(text) = text.scrub("").delete("\u0000").strip
        private_class_method :plain
      end
    end
  end
end
