# frozen_string_literal: true

module Vestry
  module Web
    module Contracts
      # How a table from elsewhere is read, as its page was filled in.
      module TableMatch
        MOST_COLUMNS = 200
        MOST_WORDS = 500
        LONGEST = 200
        private_constant :MOST_COLUMNS, :MOST_WORDS, :LONGEST

        module_function

        # @param params [Hash] +columns+ and +words+ by number, +order+, +constants+ by field
        # @return [Hash] as Records::TableLayout takes it
        def read(params)
          { "columns" => columns(params["columns"]), "order" => text(params["order"]),
            "constants" => some(params["constants"]).transform_values { |said| text(said) }.compact,
            "words" => words(params["words"]) }
        end

        def columns(given)
          last = some(given).keys.filter_map { |key| Integer(key, 10, exception: false) }.max || -1
          (0..[last, MOST_COLUMNS - 1].min).map do |i|
            facts = some(some(given)[i.to_s])
            field = text(facts["field"]) and { "field" => field, "unit" => text(facts["unit"]) }
          end
        end

        def words(given)
          some(given).first(MOST_WORDS).each_with_object({}) do |(_, facts), all|
            field, said, means = some(facts).values_at("field", "said", "means").map { |each| text(each) }
            (all[field] ||= {})[said] = means if field && said && means
          end
        end

        def some(value) = value.is_a?(Hash) ? value : {}

        def text(value)
          return unless value.is_a?(String)

          value.scrub("").delete("\u0000").strip[0, LONGEST].then { |said| said unless said.empty? }
        end
        private_class_method :columns, :words, :some, :text
      end
    end
  end
end
