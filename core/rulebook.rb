# frozen_string_literal: true

require "yaml"

module Vestry
  module Core
    # Every number of the craft with its reason. Values are asked for by a dotted path
    # and answer with an Entry; an orchard lays its own values over the shipped ones.
    #
    #   Rulebook.shipped.value("species.apple.take")   # => 0.9
    #   Rulebook.shipped.entry("species.apple.take").why
    class Rulebook
      FOLDER = File.expand_path("../rulebook", __dir__)
      FILES = %w[species methods schools care repair cause cautions reckoning site plausible materials compatibility
                 steps].freeze

      TASKS = %w[care repair].freeze

      # A value and where it comes from. +overruled+ holds who changed it, when and why,
      # and +shipped+ what stood there before; +range+ the least and the most it may be overruled to.
      Entry = Struct.new(:path, :value, :unit, :why, :range, :shipped, :overruled, keyword_init: true)

      class << self
        # The rulebook as it ships.
        def shipped
          @shipped ||= new(Hash.new do |books, name|
            raise KeyError, "no rulebook #{name}" unless FILES.include?(name)

            books[name] = Reckoning.deep_freeze(YAML.safe_load_file("#{FOLDER}/#{name}.yml"))
          end)
        end
      end

      attr_reader :overrides

      # @param books [Hash{String=>Hash}] each file's contents by its name, read when first asked for
      # @param overrides [Hash{String=>Hash}] path => {"value", "why", "who", "on"}
      def initialize(books, overrides = {})
        @books = books
        @overrides = overrides.freeze
        @entries = {}
      end

      # The same book with an orchard's own values laid over it.
      def overruled(overrides) = overrides.empty? ? self : Rulebook.new(@books, overrides)

      # @return [Hash] one file's contents, as written
      def book(name) = @books[name]

      # @param path [String] for example +methods.rind.stock_works+
      # @return [Entry]
      # @raise [KeyError] when the book has no such entry
      def entry(path)
        @entries[path] ||= build_entry(path)
      end

      # @param path [String] for example +species.apple.take+
      # @return [Object] the value that holds, overruled or shipped
      # @raise [KeyError] when the book has no such entry
      def value(path) = entry(path).value

      # @return [Object, nil] nil where the book is silent
      def value_or_nil(path) = known?(path) ? value(path) : nil

      def known?(path)
        entry(path) && true
      rescue KeyError
        false
      end

      # The kinds of stock it knows, in its own order.
      def species_names = @species_names ||= book("species").fetch("names").keys
      # The methods it knows.
      def method_names = @method_names ||= book("methods").keys
      # The methods that work a cut stub, a side or a shoot; what bridges a stripped trunk is none of them.
      def stub_methods = @stub_methods ||= method_names.reject { |name| method_fact(name, "place") == "trunk" }
      # Whether a method is made there: at the end of a stub, the side of what stays, a young shoot or a trunk.
      def works_at?(name, place) = [method_fact(name, "place"), method_fact(name, "also_at")].include?(place)
      # Whether the head is cut off above what is set by a method; at the side, in a shoot and beside a donor it stays.
      #
      # @param method [String, nil] nil where none is chosen yet
      def heads?(method) = method.nil? || method_fact(method, "place") == "end"

      # The methods for which the head is cut off.
      def heading_methods = @heading_methods ||= method_names.select { |name| heads?(name) }

      # Whether a method is set with sticks that lay in store; a bud of summer is cut on the day, and what is joined to
      # a rooted plant takes none.
      def stored_wood?(method) = method.nil? || !(method_fact(method, "donor") || method_fact(method, "fresh_wood"))

      # The methods that work the end of a cut stub.
      def end_methods = @end_methods ||= method_names.select { |name| works_at?(name, "end") }
      # The methods that work a young shoot.
      def shoot_methods = @shoot_methods ||= method_names.select { |name| works_at?(name, "shoot") }
      # The methods that work a bare stretch.
      def site_methods = @site_methods ||= method_names.select { |name| method_fact(name, "site") }

      # What is said of a method besides its figures: +kin+, +cuts+, +place+, +union+, +flaps+ and the like.
      #
      # @return [Object, nil] nil where nothing is said, as of a method that it does not know
      def method_fact(name, fact) = book("methods").dig(name, fact)
      # The schools it knows.
      def school_names = @school_names ||= book("schools").fetch("schools").keys
      # The points of practice on which schools differ.
      def point_names = @point_names ||= book("schools").fetch("points").keys

      # The choice a school makes at a practice point.
      #
      # @param point [String] for example +wrap+
      # @param school [String, nil] nil takes the point's first choice
      # @return [String]
      def practice(point, school)
        overruled = overrides["practice.#{point}"]
        return overruled.fetch("value") if overruled

        (school && book("schools").dig("schools", school, "choices", point)) ||
          book("schools").fetch("points").fetch(point).fetch("choices").keys.first
      end

      # What a graft made by this school's practice uses: the names of materials.
      #
      # @param school [String, nil]
      # @return [Array<String>]
      def materials(school)
        brings = book("materials").fetch("brings")
        (brings.flat_map { |point, choices| choices.fetch(practice(point, school)) } +
         book("materials").fetch("always")).uniq
      end

      # A rule of aftercare by its name, whether it is a graft's or a stripped trunk's.
      #
      # @return [Hash] +title+, +does+, +why+ and when
      # @raise [KeyError]
      def task(name)
        TASKS.each { |file| rules(file)[name]&.then { |rule| return rule } }
        raise KeyError, "no task #{name}"
      end

      # The rules of aftercare of grafts (care) or of stripped trunks (repair), with the figures that hold here.
      #
      # @return [Hash{String=>Hash}] by name
      def rules(file)
        (@rules ||= {})[file] ||= book(file).fetch("rules").transform_values { |rule| RulebookProse.rule(rule, self) }
          .freeze
      end

      # Growing seasons without fruit, its own first, by the practice.
      def fruitless_seasons(school)
        book("schools").fetch("points").fetch("fruit").fetch("choices").fetch(practice("fruit", school))
          .fetch("seasons")
      end

      # Whether a kind keeps its leaves: it has no winter's sleep, and goes by the calendar.
      def evergreen?(species) = book("species").dig("names", species, "evergreen") == true

      # Every kind the compatibility matrix knows, as stock or scion.
      def kin_names
        @kin_names ||= book("compatibility").fetch("pairs").then do |pairs|
          (pairs.keys + pairs.values.flat_map(&:keys)).uniq
        end
      end

      # How well +scion+ lasts on +stock+.
      #
      # @return [Hash] +value+ (good, workable, doubtful, refused), +why+ and perhaps +delayed+
      def compatibility(stock, scion)
        book("compatibility").fetch("pairs").dig(stock, scion) ||
          { "value" => "refused", "why" => "Too far apart to knit." }
      end

      # What is wrong with the book as written: nothing, when it ships.
      #
      # @return [Array<String>]
      def faults = RulebookCheck.new(self).faults

      # What is wrong with an orchard's own values, taken together; nil when they can be laid over it.
      #
      # @param laid [Hash{String=>Hash}] as in +overrides+
      # @return [String, nil]
      def override_fault(laid) = RulebookOverrides.new(self).fault(laid)

      private

      def build_entry(path)
        found = path.start_with?("species.") ? species_entry(path) : plain_entry(path)
        override = overrides[path]
        return found.freeze unless override

        found.shipped = found.value
        found.value = override.fetch("value")
        found.overruled = override
        found.freeze
      end

      # species.yml is written by figure, one line of reason for a whole column.
      def species_entry(path)
        _, species, figure = path.split(".", 3)
        column = book("species").fetch("figures").fetch(figure)
        value = column.fetch("values").fetch(species)
        why = [column.fetch("why"), column.dig("notes", species)].compact.join(" ")
        ranged(Entry.new(path: path, value: value, unit: column["unit"], why: why), column["range"])
      end

      def plain_entry(path)
        name, *keys = path.split(".")
        node = keys.inject(book(name)) { |inside, key| inside.fetch(key) }
        raise KeyError, "#{path} is not a single value" unless node.is_a?(Hash) && node.key?("value")

        ranged(Entry.new(path: path, value: node["value"], unit: node["unit"], why: node["why"]), node["range"])
      end

      def ranged(entry, own) = entry.tap { |each| each.range = RulebookRanges.of(each, own) }
    end
  end
end
