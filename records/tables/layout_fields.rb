# frozen_string_literal: true

module Vestry
  module Records
    # What a table from elsewhere may say, by what it holds: each field with how it is measured, and which are needed.
    module LayoutFields
      # +type+: number, whole, day, clock, moment, bearing, word (one of +choices+) or text; +measure+ of what unit a
      # number is, if any.
      Column = Struct.new(:name, :type, :measure, :choices, keyword_init: true) do
        def words = WORDS.fetch(name) { name.sub(/_(mm|m|c|ms|deg)\z/, "").tr("_", " ") }
      end

      WORDS = { "technique" => "method", "scion_mm" => "thickness of its sticks", "row_number" => "tree, as B1",
                "limb_name" => "limb, as B1 C", "trunk_diameter_mm" => "trunk diameter",
                "trunk_girth_mm" => "trunk girth", "fork_mm" => "height at its fork", "x_m" => "distance east",
                "y_m" => "distance north", "min_c" => "least temperature", "max_c" => "greatest temperature",
                "temperature_c" => "temperature through the day", "clock" => "time of day", "at" => "day and time",
                "celsius" => "temperature", "flat_deg" => "flat side faces", "bark_mm" => "thickness of bark",
                "wide_mm" => "widest across", "narrow_mm" => "narrowest across" }.freeze
      # Fields beside the table's own, and what follows from them.
      BESIDE = { "trees" => %w[row_number trunk_diameter_mm], "limbs" => %w[limb_name row number diameter_mm],
                 "store_readings" => %w[day clock] }.freeze
      STATION = %w[day clock min_c max_c temperature_c rain_mm gust_ms].freeze
      # Of each list, one set of fields is needed.
      NEEDED = {
        "trees" => [[%w[row number], %w[row_number]], [%w[species]]],
        "limbs" => [[%w[tree], %w[limb_name], %w[row number]], [%w[tag], %w[limb_name]],
                    [%w[girth_mm], %w[diameter_mm], %w[wide_mm narrow_mm]]],
        "station" => [[%w[day]], [%w[min_c max_c], %w[temperature_c]]],
        "store_readings" => [[%w[store]], [%w[at], %w[day clock]], [%w[celsius]]]
      }.freeze
      RAIN = %w[rain_mm].freeze
      private_constant :WORDS, :BESIDE, :STATION, :NEEDED, :RAIN

      module_function

      # @param kind [String] trees, limbs, station, or a table's name
      # @param register [Array<String>] the varieties that are known, where it names some
      # @return [Hash{String=>Field}] by name
      def of(kind, register: [])
        fields = (headings(kind) + BESIDE.fetch(kind, [])).to_h { |name| [name, field(kind, name)] }
        return fields unless fields.key?("variety") && register.any?

        fields.merge("variety" => Column.new(name: "variety", type: "word", choices: register))
      end

      # @return [Array<Array<Array<String>>>] of each, one set of fields has to be there
      def needed(kind)
        NEEDED.fetch(kind) do
          (Archive::Tables.schema(Archive::Tables.named(kind))["required"] - ["key"]).map { |name| [[name]] }
        end
      end

      # What the file comes to is written so.
      def headings(kind)
        case kind
        when "trees", "limbs" then TreeFile::KNOWN.fetch(kind)
        when "station" then STATION
        else own(kind).keys
        end
      end

      def field(kind, name)
        choices = choices(kind)[name]
        type = choices ? "word" : type(kind, name)
        Column.new(name: name, type: type, measure: (measure(name) if type == "number"), choices: choices)
      end

      def type(kind, name)
        return { "day" => "day", "clock" => "clock", "at" => "moment" }[name] if %w[day clock at].include?(name)
        return "bearing" if %w[bearing_deg flat_deg].include?(name)
        return "whole" if TreeFile::WHOLE.include?(name)
        return "number" if name.match?(/_(mm|m|c|ms|deg)\z/) || %w[latitude longitude celsius].include?(name)
        return "day" if name.end_with?("_on")

        { "whole" => "whole", "number" => "number", "day" => "day", "moment" => "moment" }[own(kind)[name]] || "text"
      end

      def measure(name)
        return "rain" if RAIN.include?(name)

        case name
        when /_mm\z/ then "length_mm"
        when /_m\z/ then "length_m"
        when /_c\z/, "celsius" then "warmth"
        when /_ms\z/ then "wind"
        end
      end

      def choices(kind)
        said = { "straight" => %w[yes no], "leader" => %w[yes no], "bark" => Core::Survey::LimbLine::BARKS }
        case kind
        when "trees" then { "species" => Core::Rulebook.shipped.species_names, "form" => Tree::FORMS }
        when "limbs" then said
        when "station" then {}
        else
          table = Archive::Tables.named(kind)
          own(kind).select { |_, kept| kept == "yes or no" }.transform_values { %w[yes no] }
            .merge(Archive::Choices.of(table).transform_keys(&:to_s))
        end
      end

      # Headings of one of an orchard's tables, with how each is written.
      def own(kind)
        table = Archive::Tables.named(kind) or return {}
        (table.columns.keys - TableFile::UNASKED).to_h { |column| [table.header(column), table.columns[column]] }
      end
      private_class_method :field, :type, :measure, :choices, :own
    end
  end
end
