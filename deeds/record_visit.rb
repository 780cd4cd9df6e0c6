# frozen_string_literal: true

module Vestry
  module Deeds
    # Records what was seen at a visit to a graft.
    module RecordVisit
      # @return [Records::Visit]
      # @raise [Refused] when the day cannot be right, or more sticks live than were set
      def self.call(graft, values, by:, today:)
        DayOfGraft.check(graft, :seen_on, values[:seen_on], today)
        if values[:sticks_alive].to_i > graft.sticks
          raise Refused, sticks_alive: ["is at most #{graft.sticks}, as many as were set"]
        end

        DayOfGraft.check_shoot(graft, :longest_shoot_mm, values[:longest_shoot_mm], values[:seen_on])
        values = which_died(graft, values)
        values = values.merge(buds: "dead") if values[:leaf_stalk] == "clings" && values[:buds].nil?
        DB.transaction do
          # What it proves hangs on the visits before it: two at once are counted one after the other.
          seen = graft.locked
          Ledger.add(Records::Visit, values.merge(orchard_id: graft.orchard_id, graft_id: graft.id,
                                                  verdict: values[:verdict] || found(seen, values, today)), by: by)
        end
      end

      # What a visit would mean, were it recorded: it is, and taken back before anyone can see it.
      #
      # @return [Array<Hash>] reasons, see GraftReport#answer
      # @raise [Refused]
      def self.meaning(graft, values, by:, today:)
        told = nil
        DB.transaction(rollback: :always) do
          call(graft, values, by: by, today: today)
          told = Records::GraftReport.new(Records::Graft[graft.id], today).answer
        end
        told
      end

      # Single sticks that are dead leave so many that live; with none left, the graft is dead.
      def self.which_died(graft, values)
        dead = values[:dead_sticks].to_a
        return values if dead.empty?
        if dead.max > graft.sticks
          raise Refused, dead_sticks: ["are numbered up to #{graft.sticks}, as many as were set"]
        end

        values = values.merge(sticks_alive: graft.sticks - dead.size)
        values[:sticks_alive].zero? && values[:buds].nil? ? values.merge(buds: "dead") : values
      end

      # What is seen to have taken counts as taken, though nobody pressed so; after a false start only what proves it.
      def self.found(graft, values, today)
        return nil if Core::Tally::GraftOutcome.dead?(values)

        visit = Records::CoreInputs.visit(values)
        care = Records::CoreInputs.care(graft, today)
        took = care[:state] == "false-start" ?
          Core::Tend::Care.proven?([*graft.visits.map { |each| Records::CoreInputs.visit(each) }, visit],
                                   graft.orchard.rulebook) :
          Core::Tend::Care.took?(visit, care[:knit_on], **care.slice(:kind, :parted_on),
                                 rulebook: graft.orchard.rulebook)
        took ? "took" : nil
      end
      private_class_method :found, :which_died
    end
  end
end
