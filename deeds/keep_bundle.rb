# frozen_string_literal: true

module Vestry
  module Deeds
    # What is done to a bundle in store: looked at, moved, corrected; and a stick kept for a stub.
    module KeepBundle
      module_function

      # @param found [String, nil] one of Bundle::FINDINGS; may be left out where it was tested
      # @param tests [Hash] +cut+, +forced+, +forced_moved+ and +weight_g+, those that were made
      def check(bundle, found, on:, note:, by:, tests: {})
        tests = tests.compact
        found = Records::Bundle::TESTED if found.to_s.empty? && tests.any?
        unless [*Records::Bundle::FINDINGS, (Records::Bundle::TESTED if tests.any?)].include?(found)
          raise Refused, found: ["say what you find: #{Records::Bundle::FINDINGS.join(', ')}"]
        end
        raise Refused, forced: ["say how many were forced, and how many of them moved"] unless whole?(tests)

        DB.transaction do
          since_cut(bundle.lock!, on)
          check = bundle.note_check(found, on: on, note: note, by: by, tests: tests)
          Ledger.event(bundle, { "found" => found, "check" => check, **tests.transform_keys(&:to_s) }, by: by)
        end
      end

      def whole?(tests)
        tests.key?(:forced) == tests.key?(:forced_moved) && tests.fetch(:forced_moved, 0) <= tests.fetch(:forced, 0)
      end

      def move(bundle, store_id, on:, by:)
        DB.transaction do
          since_cut(bundle.lock!, on)
          stay = MakeBundle.stay(bundle, bundle.orchard, store_id, on)
          Ledger.event(bundle, { "moved" => store_id, "stay" => stay }, by: by)
        end
      end

      def since_cut(bundle, day)
        raise Refused, on: ["is before it was cut on #{SaidDay.of(bundle.cut_on)}"] if day < bundle.cut_on
      end

      # @raise [Refused] when a stick of it was used, or it was looked at, before that day
      def date(bundle, cut_on, by:, today:)
        raise Refused, cut_on: [SaidDay.ahead(today)] if cut_on > today

        DB.transaction do
          Records::Stick.hold_here(bundle.lock!)
          { "a stick of it was grafted" => bundle.first_used_on,
            "it was looked at" => bundle.checks.map(&:seen_on).min }.each do |what, day|
            raise Refused, cut_on: ["is after #{what} on #{SaidDay.of(day)}"] if day && day < cut_on
          end

          was, now = [bundle.cut_on, cut_on].map { |day| Outside::Clock.start_of(bundle.orchard.time_zone, day) }
          bundle.lies_since(was, now)
          Ledger.change(bundle, { cut_on: cut_on }, by: by)
        end
      end

      # It was labelled wrongly: it is of another variety, and so is what was split from it and what was set of it.
      #
      # @return [Array<Records::Graft>] those that are corrected with it
      # @raise [Refused] without a variety
      def variety(bundle, variety, by:)
        raise Refused, variety: ["say of which variety it is"] if variety.nil?

        DB.transaction do
          bundle.hold_grafts
          parts = bundle.hold_parts
          grafts = bundle.hold_grafts
          why = "#{bundle.code} was labelled wrongly"
          (parts + grafts).each { |row| Ledger.change(row, { variety_id: variety.id }, by: by, why: why) }
          parts.each { |part| Records::StickLocks.free_sticks(part.sticks) } unless bundle.variety_id == variety.id
          grafts
        end
      end

      # Whether it holds whole shoots, which a bridge is cut from and no stub is given. Sticks that were kept for stubs
      # are kept no more once they are shoots.
      #
      # @param whole [Boolean]
      def shoots(bundle, whole, by:)
        DB.transaction do
          bundle.locked
          Records::StickLocks.free_sticks(bundle.sticks) if whole
          Ledger.change(bundle, { whole_shoots: whole }, by: by)
        end
      end

      # Keeps a stick for a stub: the match is made around it.
      def lock(plan_limb, stick, by:)
        raise Refused, stick: ["#{stick.label} is no longer there"] unless stick.here?

        DB.transaction do
          plan_limb.in_use!
          fits!(plan_limb, stick, stick.bundle.locked)
          if Records::StickLocks.for_stub(plan_limb).size >= (plan_limb.sticks || 1)
            raise Refused, stick: ["#{plan_limb.limb.label} has as many sticks kept for it as it takes"]
          end

          Records::StickLocks.add(plan_limb, stick, by: by)
        end
      rescue Sequel::UniqueConstraintViolation
        raise Refused, stick: ["#{stick.label} is kept for another stub"]
      end

      # @param bundle [Records::Bundle] as it is now, locked: what is corrected meanwhile waits
      def fits!(plan_limb, stick, bundle)
        unless bundle.variety_id == plan_limb.variety_id
          raise Refused, stick: ["#{stick.label} is #{bundle.variety.name}"]
        end
        raise Refused, stick: ["#{stick.label} is a whole shoot, kept for a bridge"] if bundle.whole_shoots
      end

      def unlock(orchard, stick_id) = Records::StickLocks.free(orchard, stick_id)
      private_class_method :whole?, :since_cut, :fits!
    end
  end
end
