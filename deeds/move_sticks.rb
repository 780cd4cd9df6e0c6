# frozen_string_literal: true

module Vestry
  module Deeds
    # Sticks that leave a bundle and come back: split off, lent, received, thrown out, taken for a
    # graft. Whoever does what at once, a stick goes one way only: the rows are held while they move.
    module MoveSticks
      module_function

      # @return [Records::Bundle] the new one
      # @raise [Refused] when there are fewer
      def split(bundle, count, by:)
        DB.transaction do
          moving = hold(bundle, count)
          raise Refused, count: ["would take all of them; a split leaves some behind"] if moving.size == left(bundle)

          part = Ledger.add(Records::Bundle, bundle.values.slice(:orchard_id, :variety_id, :tree_id, :source, :cut_on,
                                                                 :length_mm, :whole_shoots, :ends, :dip, :packing,
                                                                 :cut_by).merge(parent_id: bundle.id), by: by,
                                                                 why: "split from #{bundle.code}")
          Ledger.event(bundle, { "split" => count, "part" => part.id, "numbers" => moving.map(&:number) }, by: by)
          moving.each_with_index { |stick, i| stick.update(bundle_id: part.id, number: i + 1) }
          part.lie_with(bundle)
          part
        end
      end

      # @param why [String] lent or discarded
      # @param to [String] whom it was lent to, or why it was thrown out
      # @return [Integer] how many are left
      def send_off(bundle, count, why, to:, on:, by:)
        raise Refused, why: ["is lent or discarded"] unless %w[lent discarded].include?(why)
        raise Refused, to: ["say whom they are lent to"] if why == "lent" && to.to_s.strip.empty?
        raise Refused, on: ["is before it was cut on #{SaidDay.of(bundle.cut_on)}"] if on < bundle.cut_on

        DB.transaction do
          going = hold(bundle, count).each { |stick| stick.update(left_for: why, left_on: on, left_to: to) }
          Ledger.event(bundle, { why => count, "to" => to, "numbers" => going.map(&:number) }, by: by)
          left(bundle)
        end
      end

      # Lent sticks that came back, or more of the same that were received.
      def receive(bundle, count, by:)
        unless count.between?(1, MakeBundle::MOST)
          raise Refused, count: ["say how many sticks, from 1 to #{MakeBundle::MOST}"]
        end

        DB.transaction do
          bundle.locked
          back = Records::Stick.hold_lent(bundle, most: count)
          back.each { |stick| stick.update(left_for: nil, left_on: nil, left_to: nil) }
          new = count > back.size ? Records::Stick.add(bundle, Array.new(count - back.size)) : []
          Ledger.event(bundle, { "received" => count, "numbers" => (new if back.empty?) }.compact, by: by)
          left(bundle)
        end
      end

      # Takes sticks for a graft: those kept for its limb, then those that were matched to it, then such as are as thick
      # as its own was.
      #
      # @param first [Array<Integer>, nil] sticks that are taken before others; nil for those kept for its limb
      # @param matched [Array<Records::Stick>] those its card named; they stand back where another thickness was typed
      # @raise [Refused] when the bundle has fewer, or was cut after the graft, or is of another variety
      def use(bundle, graft, count, by:, first: nil, matched: [])
        fits!(bundle, graft)
        planned = graft.limb.planned if first.nil?
        first ||= planned ? Records::StickLocks.for_stub(planned) : []
        named = as_thick?(graft, matched.first) ? matched.map(&:id) : []
        sticks = hold(bundle, count, first: first, named: named, field: :bundle, thick: graft.scion_mm&.to_f)
        sticks.each { |stick| stick.update(graft_id: graft.id) }
        Records::StickLocks.free_sticks(sticks)
        Records::StickLocks.free_stub(planned) if planned
        Ledger.event(bundle, { "used" => count, "graft" => graft.id }, by: by)
        sticks
      end

      # Whether a stick is what was typed of a graft's.
      def as_thick?(graft, stick)
        return true if graft.scion_mm.nil? || stick&.diameter_mm.nil?

        (stick.diameter_mm - graft.scion_mm).abs <= graft.orchard.rulebook.value("reckoning.wood.alike")
      end

      # @raise [Refused] when the bundle was cut after the graft, or is of another variety
      def fits!(bundle, graft)
        if bundle.variety_id != graft.variety_id
          raise Refused, bundle: ["#{bundle.code} is #{bundle.variety.name}; the graft is #{graft.variety.name}"]
        end
        if bundle.cut_on > graft.grafted_on
          raise Refused, bundle: ["#{bundle.code} was cut on #{SaidDay.of(bundle.cut_on)}, after the graft"]
        end
      end

      # A graft or a bridge that was logged by mistake had no sticks: they lie in their bundles again.
      #
      # @param row [Records::Graft, Records::Wound]
      def give_back(row, by:)
        on = Records::Stick.set_on(row)
        Records::Stick.hold_on(row).group_by(&:bundle).each do |bundle, sticks|
          sticks.each { |stick| stick.update("#{on}_id": nil) }
          Ledger.event(bundle, { "back" => sticks.size, on.to_s => row.id, "numbers" => sticks.map(&:number) }, by: by)
        end
      end

      # The same sticks again, those that nothing else was done with since.
      def take_again(row, by:)
        on = Records::Stick.set_on(row)
        Records::HistoryLog.given_back(row.orchard_id, on, row.id).each do |bundle_id, numbers|
          bundle = Records::Bundle[bundle_id]
          sticks = Records::Stick.hold_here(bundle).select { |stick| numbers.include?(stick.number) }
          sticks.each { |stick| stick.update("#{on}_id": row.id) }
          Records::StickLocks.free_sticks(sticks)
          Ledger.event(bundle, { "used" => sticks.size, on.to_s => row.id }, by: by) if sticks.any?
        end
      end

      # Types diameters onto the sticks there are, in their order.
      def measure(bundle, diameters, by:)
        DB.transaction do
          bundle.locked
          here = Records::Stick.hold_here(bundle)
          if diameters.size > here.size
            raise Refused, diameters: ["#{diameters.size} are typed, and #{here.size} sticks are left"]
          end

          here.zip(diameters).each { |stick, mm| stick.update(diameter_mm: mm) if mm }
          Ledger.event(bundle, { "measured" => diameters.size }, by: by)
        end
      end

      def left(bundle) = Records::Stick.left_in(bundle)

      # So many sticks of a bundle, held until the transaction ends: some before the rest, then those that a card named,
      # then those that are nearest to a thickness, where one is known; what is kept for other stubs last, whatever a
      # card said before it was.
      def hold(bundle, count, first: [], named: [], field: :count, thick: nil)
        raise Refused, field => ["say how many sticks, such as 3"] unless count.positive?

        # One at a time at a bundle, so that nobody counts what another is taking.
        bundle.locked
        locked = Records::StickLocks.of(bundle.orchard).keys
        wished = first + (named - locked)
        sorted = Records::Stick.hold_here(bundle).sort_by do |stick|
          [wished.index(stick.id) || wished.size, locked.include?(stick.id) ? 1 : 0, stick.off_by(thick), stick.number]
        end
        return sorted.first(count) if sorted.size >= count

        raise Refused, field => ["#{bundle.code} has #{sorted.empty? ? 'none' : "only #{sorted.size}"} " \
                                 "left#{last_taken(bundle)}"]
      end

      # Who took the last, for whoever comes too late.
      def last_taken(bundle)
        who = Records::HistoryQueries.last_change(bundle)&.fetch(:who)
        who ? "; #{who} took some last" : ""
      end
    end
  end
end
