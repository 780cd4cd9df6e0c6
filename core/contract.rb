# frozen_string_literal: true

require "date"
require "time"

module Vestry
  module Core
    # What a reckoning takes, as data: field, kind, unit, range, default. The same
    # data gives the check, the help text, the forms' limits and the API's description.
    #
    #   CONTRACT = Contract.define("closure", "How much of a stub has closed over") do
    #     number :stub_mm, unit: "mm", above: 0, help: "diameter of the stub when it was cut"
    #   end
    #   CONTRACT.check("stub_mm" => 64)  # => {stub_mm: 64.0}
    class Contract
      # One field: its kind, its unit and what is allowed.
      Field = Struct.new(:name, :kind, :unit, :above, :least, :most, :below, :default, :optional,
                         :choices, :of, :size, :fields, :help, keyword_init: true) do
        # What is allowed, in words.
        def allowed
          case kind
          when :number, :integer then [kind == :integer ? "a whole number" : "a number", unit_words, range_words].compact.join(" ")
          when :flag then "true or false"
          when :date then "a date as YYYY-MM-DD"
          when :time then "a time as YYYY-MM-DDTHH:MM, UTC unless it says otherwise"
          when :name then "one of #{names.join(', ')}"
          when :key then "a name or number that identifies it"
          when :text then "a text"
          when :list then size ? "a list of #{size}" : "a list"
          when :record then "an object with #{fields.map(&:name).join(', ')}"
          end
        end

        # The choices, where they are asked for only when needed.
        def names = choices.respond_to?(:call) ? choices.call : choices

        # The unit as it is said in a message.
        def unit_words = unit && "in #{unit}"

        # The range as it is said in a message; nil where there is none.
        def range_words
          parts = []
          parts << "above #{Contract.plain(above)}" if above
          parts << "from #{Contract.plain(least)}" if least
          parts << "up to #{Contract.plain(most)}" if most
          parts << "below #{Contract.plain(below)}" if below
          parts.empty? ? nil : parts.join(" ")
        end

        def in_range?(value)
          (above.nil? || value > above) && (least.nil? || value >= least) &&
            (most.nil? || value <= most) && (below.nil? || value < below)
        end
      end

      # Collects the fields named in a definition's block.
      class Definition
        attr_reader :fields, :alternatives

        def initialize
          @fields = []
          @alternatives = []
        end

        %i[number integer flag date time key text].each do |kind|
          define_method(kind) { |name, **facts| add(name, kind, **facts) }
        end

        # One of a few names.
        # @param choices [Array<String>, Proc]
        def name(name, choices, **facts) = add(name, :name, choices: choices, **facts)

        # A list of one kind of field, or of records described by the block.
        def list(name, of = nil, **facts, &block)
          inner = block ? Field.new(name: :item, kind: :record, fields: nested(&block)) : of
          add(name, :list, of: inner, **facts)
        end

        # An object with fields of its own.
        def record(name, **facts, &block) = add(name, :record, fields: nested(&block), **facts)

        # Days of weather, each with its extremes.
        #
        # @param wet [Boolean] with rain and gusts, where they are known
        def weather(name, wet: false, **facts)
          list(name, **facts) do
            date :date
            number :min_c, unit: "°C"
            number :max_c, unit: "°C"
            next unless wet

            number :rain_mm, unit: "mm", least: 0, optional: true
            number :gust_ms, unit: "m/s", least: 0, optional: true
          end
        end

        # Exactly one of these fields must be given.
        def one_of(*names) = @alternatives << names

        # A field that stands inside a list.
        def item(kind, **facts) = Field.new(name: :item, kind: kind, **facts)

        # A list of records that stands inside a list.
        def series(&block) = Field.new(name: :item, kind: :list, of: Field.new(name: :item, kind: :record, fields: nested(&block)).freeze)

        private

        def add(name, kind, **facts)
          facts = facts.merge(optional: true) if facts.key?(:default)
          @fields << Field.new(name: name, kind: kind, **facts).freeze
        end

        def nested(&block)
          inner = Definition.new
          inner.instance_eval(&block)
          inner.fields.freeze
        end
      end

      attr_reader :name, :summary, :fields, :alternatives

      # A contract from the fields named in the block.
      # @param name [String] the reckoning's
      # @param summary [String] what it answers, for help
      def self.define(name, summary, &block)
        definition = Definition.new
        definition.instance_eval(&block)
        new(name, summary, definition.fields.freeze, definition.alternatives.freeze)
      end

      # A number as a person would write it: 25, 0.5.
      def self.plain(number) = number == number.to_i ? number.to_i.to_s : number.to_s

      def initialize(name, summary, fields, alternatives)
        @name = name
        @summary = summary
        @fields = fields
        @alternatives = alternatives
        freeze
      end

      # The field called +name+; forms take their ranges from it.
      #
      # @param path [Symbol, String] a name, or names joined by dots for a nested field
      # @return [Field]
      def field(path)
        path.to_s.split(".").inject(nil) do |above, part|
          inside = above.nil? ? fields : (above.of || above).fields
          inside.find { |each| each.name.to_s == part } or raise KeyError, "no field #{path} in #{name}"
        end
      end

      # Checks and coerces. Numbers become Float, dates Date, null the default.
      #
      # @param input [Hash] with string or symbol keys
      # @return [Hash{Symbol=>Object}] every field present
      # @raise [BadInput] naming the first field that cannot be used
      def check(input)
        raise BadInput.new("input", "a JSON object with #{fields.map(&:name).join(', ')}") unless input.is_a?(Hash)

        values = check_fields(fields, input, "")
        alternatives.each { |names| check_alternatives(names, values) }
        values
      end

      # The help text: a line a field.
      def help
        lines = ["#{name}: #{summary}", ""]
        lines.concat(help_lines(fields, "  "))
        alternatives.each { |names| lines << "  exactly one of #{names.join(', ')}" }
        lines.join("\n")
      end

      private

      def check_fields(inside, input, place)
        inside.each_with_object({}) do |field, values|
          raw = input.fetch(field.name.to_s) { input[field.name] }
          values[field.name] = check_field(field, raw, "#{place}#{field.name}")
        end
      end

      def check_field(field, raw, place)
        if raw.nil?
          return field.default if field.optional

          raise BadInput.new(place, "is missing; #{field.allowed}")
        end
        send("check_#{field.kind}", field, raw, place)
      end

      def check_number(field, raw, place)
        refuse(field, place) unless raw.is_a?(Numeric) && raw.real?
        value = raw.to_f
        refuse(field, place) unless value.finite? && field.in_range?(value)
        value
      end

      def check_integer(field, raw, place)
        value = check_number(field, raw, place)
        refuse(field, place) unless value == value.round
        value.round
      end

      def check_flag(field, raw, place) = [true, false].include?(raw) ? raw : refuse(field, place)

      def check_text(field, raw, place) = raw.is_a?(String) ? raw : refuse(field, place)

      def check_key(field, raw, place)
        raw.is_a?(String) && !raw.empty? || raw.is_a?(Integer) ? raw : refuse(field, place)
      end

      def check_name(field, raw, place)
        refuse(field, place) unless raw.is_a?(String) || raw.is_a?(Symbol)
        wanted = raw.to_s.strip.downcase.tr("_ ", "--")
        field.names.include?(wanted) ? wanted : refuse(field, place)
      end

      def check_date(field, raw, place)
        return raw if raw.instance_of?(Date)

        refuse(field, place) unless raw.is_a?(String) && raw.match?(/\A\d{4}-\d{2}-\d{2}\z/)
        Date.iso8601(raw)
      rescue Date::Error
        refuse(field, place)
      end

      def check_time(field, raw, place)
        return raw.getutc if raw.is_a?(Time)

        refuse(field, place) unless raw.is_a?(String) && raw.match?(/\A\d{4}-\d{2}-\d{2}/)
        zoned = raw.match?(/(Z|[+-]\d{2}:?\d{2})\z/) && raw.include?("T") || raw.end_with?("Z")
        DateTime.iso8601(zoned || !raw.match?(/[T ]\d/) ? raw : "#{raw.tr(' ', 'T')}Z").to_time.utc
      rescue Date::Error
        refuse(field, place)
      end

      def check_list(field, raw, place)
        refuse(field, place) unless raw.is_a?(Array) && (field.size.nil? || raw.size == field.size)
        raw.each_with_index.map { |each, index| check_field(field.of, each, "#{place}[#{index}]") }
      end

      def check_record(field, raw, place)
        refuse(field, place) unless raw.is_a?(Hash)
        check_fields(field.fields, raw, "#{place}.")
      end

      def refuse(field, place) = raise(BadInput.new(place, field.allowed))

      def check_alternatives(names, values)
        given = names.reject { |name| values[name].nil? }
        return if given.size == 1
        raise BadInput.new(names.first, "is missing; give one of #{names.join(', ')}") if given.empty?

        raise BadInput.new(given[1], "give only one of #{names.join(', ')}")
      end

      def help_lines(inside, indent)
        inside.flat_map do |field|
          head = "#{indent}#{field.name}#{default_words(field)}: #{field.allowed}"
          head += " (#{field.help})" if field.help
          nested = field.fields || field.of&.fields || field.of&.of&.fields
          item = field.of && !nested ? ["#{indent}  each: #{field.of.allowed}"] : []
          [head, *item, *(nested ? help_lines(nested, "#{indent}  ") : [])]
        end
      end

      def default_words(field)
        return "" unless field.optional

        field.default.nil? ? " [optional]" : " [default #{field.default}]"
      end
    end
  end
end
