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
      # How far a number may go where its field says nothing narrower: past anything met in an orchard, and
      # near enough that squares and products of such numbers stay finite. Minutes are also those of a crew in a year.
      FURTHEST = {
        "mm" => 100_000, "mm²" => 1e9, "°C" => 100, "degree-days" => 20_000, "degree-hours" => 1e6, "m/s" => 150,
        "weeks" => 5200, "minutes" => 1e9, "hours" => 24, "ml" => 1e9, "g" => 1e6, "mm a season" => 1000
      }.freeze
      # The same for a number without a unit, for the entries of a list, and for the characters of a text.
      FURTHEST_NUMBER = 1e9
      LONGEST_LIST = 2000
      LONGEST_TEXT = 2000
      # Days of weather: a graft is followed for some years.
      MOST_DAYS = 3000
      # The earliest and the latest day that is reckoned with.
      DAYS = (Date.new(1700, 1, 1)..Date.new(2200, 12, 31)).freeze

      # One field: its kind, its unit and what is allowed. +unique+ names the field that tells a list's
      # records apart; +rising+ lists the fields of a record whose values may not fall from one to the next.
      Field = Struct.new(:name, :kind, :unit, :above, :least, :most, :below, :default, :optional,
                         :choices, :of, :size, :longest, :unique, :fields, :rising, :help, keyword_init: true) do
        # What is allowed, in words.
        def allowed
          case kind
          when :number, :integer then [kind == :integer ? "a whole number" : "a number", unit_words, range_words]
            .compact.join(" ")
          when :flag then "true or false"
          when :date then "a date as YYYY-MM-DD, from #{DAYS.begin.year} to #{DAYS.end.year}"
          when :time then "a time as YYYY-MM-DDTHH:MM, UTC unless it says otherwise"
          when :name then "one of #{names.join(', ')}"
          when :key then "a name or number that identifies it"
          when :text then "a text of up to #{LONGEST_TEXT} characters"
          when :list then size ? "a list of #{size}" : "a list of up to #{longest}"
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
        attr_reader :fields, :alternatives, :orders

        def initialize
          @fields = []
          @alternatives = []
          @orders = []
        end

        %i[number integer flag date time key text].each do |kind|
          define_method(kind) { |name, **facts| add(name, kind, **facts) }
        end

        # One of a few names.
        # @param choices [Array<String>, Proc]
        def name(name, choices, **facts) = add(name, :name, choices: choices, **facts)

        # A list of one kind of field, or of records described by the block.
        def list(name, of = nil, **facts, &block)
          inner = block ? item(:record, **nested(&block)) : of
          add(name, :list, of: inner, longest: LONGEST_LIST, **facts)
        end

        # An object with fields of its own.
        def record(name, **facts, &block) = add(name, :record, **nested(&block), **facts)

        # Days of weather, each with its extremes, and rain and gusts where they are known
        def weather(name, **facts)
          list(name, longest: MOST_DAYS, **facts) do
            day_of_weather
            number :rain_mm, unit: "mm", least: 0, optional: true
            number :gust_ms, unit: "m/s", least: 0, optional: true
          end
        end

        # A day's least and greatest temperature.
        def day_of_weather
          date :date
          number :min_c, unit: "°C", least: -FURTHEST["°C"]
          number :max_c, unit: "°C", least: -FURTHEST["°C"]
          rising :min_c, :max_c
        end

        # The values of these fields, as far as they are given, do not fall from one to the next.
        def rising(*names) = @orders << names

        # Exactly one of these fields must be given.
        def one_of(*names) = @alternatives << names

        # A field that stands inside a list.
        def item(kind, **facts) = Field.new(name: :item, kind: kind, **within_reach(kind, facts)).freeze

        # A list of records that stands inside a list.
        def series(&block) = item(:list, of: item(:record, **nested(&block)), longest: MOST_DAYS)

        private

        def add(name, kind, **facts)
          facts = facts.merge(optional: true) if facts.key?(:default)
          @fields << Field.new(name: name, kind: kind, **within_reach(kind, facts)).freeze
        end

        # No number is without bounds: a field that names none has those of its unit.
        def within_reach(kind, facts)
          return facts unless %i[number integer].include?(kind)

          furthest = FURTHEST.fetch(facts[:unit], FURTHEST_NUMBER)
          upper = facts.key?(:most) || facts.key?(:below) ? {} : { most: furthest }
          lower = facts.key?(:least) || facts.key?(:above) ? {} : { least: -furthest }
          facts.merge(upper, lower)
        end

        def nested(&block)
          inner = Definition.new
          inner.instance_eval(&block)
          { fields: inner.fields.freeze, rising: inner.orders.freeze }
        end
      end

      attr_reader :name, :summary, :fields, :alternatives, :orders

      # A contract from the fields named in the block.
      # @param name [String] the reckoning's
      # @param summary [String] what it answers, for help
      def self.define(name, summary, &block)
        definition = Definition.new
        definition.instance_eval(&block)
        new(name, summary, definition)
      end

      # A number as a person would write it: 25, 0.5.
      def self.plain(number) = number == number.to_i ? number.to_i.to_s : number.to_s

      def initialize(name, summary, definition)
        @name = name
        @summary = summary
        @fields = definition.fields.freeze
        @alternatives = definition.alternatives.freeze
        @orders = definition.orders.freeze
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
      # @raise [BadInput] naming the first field that cannot be used, or that nobody asked for
      def check(input)
        raise BadInput.new("input", "a JSON object with #{fields.map(&:name).join(', ')}") unless input.is_a?(Hash)

        values = check_fields(fields, orders, input, "")
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

      def check_fields(inside, orders, input, place)
        check_known(inside, input, place)
        values = inside.to_h do |field|
          raw = input.fetch(field.name.to_s) { input[field.name] }
          [field.name, check_field(field, raw, "#{place}#{field.name}")]
        end
        orders.each { |names| check_rising(inside, names, values, place) }
        values
      end

      # A field that is not asked for is more often a slip of the pen than meant to be passed over.
      def check_known(inside, input, place)
        if input.size <= inside.size && inside.count { |field| input.key?(field.name.to_s) ||
                                                       input.key?(field.name) } == input.size
          return
        end

        stray = input.keys.find { |key| inside.none? { |field| field.name.to_s == key.to_s } } or return
        raise BadInput.new("#{place}#{stray.to_s.scrub('?')[0, 60]}",
                           "is not asked for; #{inside.map(&:name).join(', ')} are")
      end

      def check_rising(inside, names, values, place)
        names.reject { |name| values[name].nil? }.each_cons(2) do |one, after|
          next if values[after] >= values[one]

          kind = inside.find { |field| field.name == after }
          raise BadInput.new("#{place}#{after}",
                             "#{[kind.kind == :date ? 'a date' : 'a number', kind.unit_words].compact.join(' ')} " \
                             "not below #{one}, #{values[one]}")
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
        refuse(field, place) unless raw.is_a?(Numeric) && raw.real? && raw.abs < Float::MAX
        # What is nearer to 0 than any figure is told apart is 0.
        value = Near.equal?(raw, 0) ? 0.0 : raw.to_f
        refuse(field, place) unless value.finite? && field.in_range?(value)
        value
      end

      def check_integer(field, raw, place)
        value = check_number(field, raw, place)
        refuse(field, place) unless value == value.round
        value.round
      end

      def check_flag(field, raw, place) = [true, false].include?(raw) ? raw : refuse(field, place)

      def check_text(field, raw, place) = text?(raw, LONGEST_TEXT) ? raw : refuse(field, place)

      def check_key(field, raw, place)
        text?(raw, 200) && !raw.empty? || raw.is_a?(Integer) && raw.abs < 2**63 ? raw : refuse(field, place)
      end

      def text?(raw, longest) = raw.is_a?(String) && raw.valid_encoding? && raw.size <= longest

      def check_name(field, raw, place)
        refuse(field, place) unless text?(raw, 200) || raw.is_a?(Symbol)
        wanted = raw.to_s.strip.downcase.tr("_ ", "--")
        field.names.include?(wanted) ? wanted : refuse(field, place)
      end

      def check_date(field, raw, place)
        date = raw.instance_of?(Date) ? raw : nil
        date ||= Date.iso8601(raw) if text?(raw, 10) && raw.match?(/\A\d{4}-\d{2}-\d{2}\z/)
        date && DAYS.cover?(date) ? date : refuse(field, place)
      rescue Date::Error
        refuse(field, place)
      end

      def check_time(field, raw, place)
        return raw.getutc if raw.is_a?(Time)

        unless text?(raw, 40) &&
          raw.match?(/\A\d{4}-\d{2}-\d{2}([T ]\d{2}:\d{2}(:\d{2}(\.\d+)?)?(Z|[+-]\d{2}:?\d{2})?)?\z/)
          refuse(field, place)
        end
        refuse(field, place) unless DAYS.cover?(Date.iso8601(raw[0, 10]))
        zoned = raw.match?(/(Z|[+-]\d{2}:?\d{2})\z/) && raw.include?("T") || raw.end_with?("Z")
        DateTime.iso8601(zoned || !raw.match?(/[T ]\d/) ? raw : "#{raw.tr(' ', 'T')}Z").to_time.utc
      rescue Date::Error
        refuse(field, place)
      end

      def check_list(field, raw, place)
        unless raw.is_a?(Array) && (field.size ? raw.size == field.size : raw.size <= field.longest)
          refuse(field, place)
        end
        values = raw.each_with_index.map { |each, index| check_field(field.of, each, "#{place}[#{index}]") }
        check_unique(field.unique, values, place) if field.unique
        values
      end

      # Apart as they are written: 1 and "1" are one name in an answer.
      def check_unique(name, values, place)
        met = {}
        values.each_with_index do |value, index|
          raise BadInput.new("#{place}[#{index}].#{name}", "one that no other has") if met[value[name].to_s]

          met[value[name].to_s] = true
        end
      end

      def check_record(field, raw, place)
        refuse(field, place) unless raw.is_a?(Hash)
        check_fields(field.fields, field.rising, raw, "#{place}.")
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
