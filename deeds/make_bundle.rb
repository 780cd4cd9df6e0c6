# frozen_string_literal: true

module Vestry
  module Deeds
    # Makes a bundle: judged, counted, and put into a store.
    module MakeBundle
      # What is judged stick by stick before a bundle is tied; all of it, or the bundle is refused.
      CHECKS = {
        growth: "must be last season's growth: below the ring scar it is older wood, and refused",
        buds: "must carry leaf buds; flower buds are set aside",
        health: "must be sound: no canker, no shrivelled bark, no frost",
        ends: "must have the unripe tip and the thick base cut away",
        way: "must be marked which way is up"
      }.freeze
      MOST = 500
      TOO_MANY = "#{MOST} sticks in one bundle at most; make two"

      # @param values [Hash] +variety+ (id), +tree+ (a label, own wood) or +source+ (from elsewhere), +cut_on+,
      #   +count+ or +diameters+ (mm), +length_mm+, +whole_shoots+, +ends+, +dip+, +packing+, +store+ (id),
      #   +laid_in+ (the day from which it lay there, where that is not the one on which it was cut), +cut_by+,
      #   +checked+ (names of CHECKS), +client_key+, +promise+ (id of the order that it came by)
      # @return [Records::Bundle]
      # @raise [Refused]
      def self.call(orchard, values, by:, today:)
        variety, tree, errors = look(orchard, values, today)
        raise Refused, errors if errors.any?

        DB.transaction do
          bundle = Ledger.add(Records::Bundle, values.slice(:source, :cut_on, :length_mm, :ends, :dip, :packing,
                                                            :cut_by, :client_key).merge(orchard_id: orchard.id,
                                                              variety_id: variety.id, tree_id: tree&.id,
                                                              whole_shoots: values[:whole_shoots] || false), by: by)
          next bundle if bundle.sticks.any?

          fill(bundle, orchard, values)
          OrderWood.came(orchard.wood_promise!(values[:promise]), variety, on: today, by: by) if values[:promise]
          bundle
        end
      end

      # Its sticks, and where it lies.
      def self.fill(bundle, orchard, values)
        Records::Stick.add(bundle, values[:diameters] || Array.new(values[:count]))
        stay(bundle, orchard, values[:store], values[:laid_in] || values[:cut_on]) if values[:store]
      end

      def self.look(orchard, values, today)
        variety = find(orchard, values[:variety])
        tree = values[:tree] && Records::Finder.tree(orchard, values[:tree])
        errors = { variety: of_variety(variety), tree: of_tree(tree, variety, values),
                   cut_on: of_day(values[:cut_on], today), laid_in: of_arrival(values, today),
                   count: of_count(values[:count], values[:diameters].to_a), source: of_source(variety, tree, values),
                   checked: of_checks(values.fetch(:checked, [])) }
        [variety, tree, errors.transform_values { |words| Array(words) }.reject { |_, words| words.empty? }]
      end

      def self.of_variety(variety)
        return "is not in this orchard's register" unless variety
        return unless Records::VarietyFit.unpermitted?(variety)

        "#{variety.name} is protected and no permission is recorded: record it in the register first"
      end

      def self.of_tree(tree, variety, values)
        return of_no_tree(values) unless tree
        return if variety.nil? || Records::WoodSources.grows_on?(tree, variety)

        carries = tree.variety ? "carries #{tree.variety.name}" : "is #{tree.species}"
        "#{tree.label} #{carries}, and no #{variety.name} was grafted on it: say another tree or variety, or correct " \
          "what the tree carries"
      end

      def self.of_no_tree(values)
        return "#{values[:tree]} is not a tree here; write its row and number, as A3" if values[:tree]

        "say which tree it was cut from, or where it came from" if blank?(values[:source])
      end

      def self.of_day(cut_on, today)
        SaidDay.ahead(today) if cut_on > today
      end

      def self.of_arrival(values, today)
        day = values[:laid_in] or return
        return "is before it was cut on #{SaidDay.of(values[:cut_on])}" if day < values[:cut_on]

        of_day(day, today)
      end

      def self.of_count(count, diameters)
        if count && diameters.any? && count != diameters.size
          "says #{count}, and #{diameters.size} diameters are typed"
        elsif [count.to_i, diameters.size].max > MOST then TOO_MANY
        elsif count.nil? && diameters.empty? then "say how many sticks, or type their diameters"
        end
      end

      def self.of_source(variety, tree, values)
        return unless variety&.outside && tree.nil? && blank?(values[:source]) && blank?(variety.origin)

        "say where the wood comes from: whoever checks plant health will ask"
      end

      def self.of_checks(checked) = (CHECKS.keys - checked.map(&:to_sym)).map { |name| "It #{CHECKS[name]}." }
      def self.blank?(text) = text.to_s.strip.empty?
      private_class_method :fill, :of_variety, :of_tree, :of_no_tree, :of_day, :of_arrival, :of_count, :of_source,
                           :of_checks, :blank?

      def self.find(orchard, id)
        orchard.variety!(id)
      rescue Records::Missing
        nil
      end

      # Where it lies from a day on.
      def self.stay(bundle, orchard, store_id, day)
        bundle.lay_in(orchard.store!(store_id), Outside::Clock.start_of(orchard.time_zone, day))
      rescue Records::Missing
        raise Refused, store: ["is not one of this orchard's stores"]
      end
      private_class_method :look, :find
    end
  end
end
