# frozen_string_literal: true

module Vestry
  module Records
    # What was changed, and what happened to a limb.
    module HistoryQueries
      module_function

      # Changes to facts, newest first, each with whether its row is out of sight now.
      def history(orchard, kind: nil, row: nil, before: nil, limit: 50)
        rows = DB[:history].where(orchard_id: orchard.id)
        rows = rows.where(table_name: kind) if kind
        rows = rows.where(row_id: row) if row&.between?(1, 2_147_483_647)
        rows = rows.where { id < before } if before&.between?(1, 2**62)
        rows = rows.order(Sequel.desc(:id)).limit(limit).all
        hidden = hidden_now(rows.select { |each| each[:action] == "hide" })
        rows.each do |each|
          each[:hidden_now] = each[:action] == "hide" && hidden.fetch(each[:table_name], []).include?(each[:row_id])
        end
      end

      # What one deed wrote, in the order in which it did.
      #
      # @param deed [String] a uuid
      # @return [Array<Hash>] lines of history
      def of_deed(orchard, deed) = of_deeds(orchard, [deed]).fetch(deed, [])

      # @param deeds [Array<String>]
      # @return [Hash{String=>Array<Hash>}] lines of history by deed
      def of_deeds(orchard, deeds)
        DB[:history].where(orchard_id: orchard.id, deed: deeds).order(:id).all.group_by { |line| line[:deed] }
      end

      # Which of some deeds wrote the last that is told of all their rows.
      #
      # @param deeds [Hash{String=>Array<Hash>}] lines of history by deed
      # @return [Hash{String=>Array<Hash>}] those
      def untouched(orchard, deeds)
        rows = deeds.values.flatten.map { |line| line.values_at(:table_name, :row_id) }.uniq
        last = DB[:history].where(orchard_id: orchard.id, %i[table_name row_id] => rows)
          .group_by(:table_name, :row_id).select_hash(%i[table_name row_id], Sequel.function(:max, :id).as(:last))
        deeds.select do |_, lines|
          ends = lines.last[:id]
          lines.all? { |line| last[line.values_at(:table_name, :row_id)] <= ends }
        end
      end

      # Whether nothing is told of a row but that it came.
      def only_added?(row)
        DB[:history].where(orchard_id: row.orchard_id, table_name: row.class.table_name.to_s, row_id: row.id).count == 1
      end

      # Whether what a person may do here was changed since a line of history.
      #
      # @param member [Membership]
      def role_changed_since?(member, line_id)
        !DB[:history].where(orchard_id: member.orchard_id, table_name: "memberships", row_id: member.id)
          .where { id > line_id }.empty?
      end

      # Changes after one that is known, oldest first.
      def after(orchard, id, limit:)
        DB[:history].where(orchard_id: orchard.id).where(Sequel[:id] > id).order(:id).limit(limit).all
      end

      # What others changed since a moment: who, and how often what.
      #
      # @param but [Account] whose own changes are left out
      # @return [Hash{String=>Hash{Array(String, String)=>Integer}}] by name, counts by table and action
      def since(orchard, moment, but:)
        DB[:history].where(orchard_id: orchard.id).where { at > moment }
          .where(Sequel.|({ account_id: nil }, Sequel.~(account_id: but.id)))
          .group_and_count(:who, :table_name, :action).order(Sequel.desc(:count), :table_name).limit(60).all
          .group_by { |row| row[:who] }
          .transform_values { |rows| rows.to_h { |row| [row.values_at(:table_name, :action), row[:count]] } }
      end

      # @return [Hash{String=>Array<Integer>}] the ids by table of these changes' rows that are out of sight
      def hidden_now(changes)
        changes.select { |each| hides?(each[:table_name]) }.group_by { |each| each[:table_name] }.to_h do |table, all|
          [table, DB[table.to_sym].where(id: all.map { |each| each[:row_id] }).exclude(hidden_at: nil).select_map(:id)]
        end
      end

      # The latest change to a row.
      #
      # @return [Hash, nil]
      def last_change(row)
        DB[:history].where(orchard_id: row.orchard_id, table_name: row.class.table_name.to_s, row_id: row.id,
                           action: "change").order(Sequel.desc(:id)).first
      end

      # Whether rows of a table go out of sight; a file that was taken back does not.
      def hides?(table) = (facts = Archive::Tables.of(table)) && DB.schema(facts.table).to_h.key?(:hidden_at)

      # A graft, and what was seen of it, done to it and counted.
      def story_of_graft(graft)
        [{ on: graft.grafted_on, kind: :grafted, row: graft },
         *graft.visits.map { |each| { on: each.seen_on, kind: :visited, row: each } },
         *graft.tasks_done.map { |each| { on: each.done_on, kind: :settled, row: each } },
         *graft.tallies.map { |each| { on: each.tallied_on, kind: :tallied, row: each } },
         *([{ on: graft.lost_on, kind: :lost, row: graft }] if graft.lost_on)]
      end

      # What is known of a stripped trunk, in order: each +on+, +kind+, +who+ and +row+.
      #
      # @param verdicts [Array<Hash>] of its visits, as WoundReport tells them
      def story_of_wound(wound, verdicts)
        events = [{ on: wound.happened_on, kind: :happened }, { on: wound.found_on, kind: :found },
                  { on: wound.covered_on, kind: :covered }, *repairs(wound),
                  *wound.tasks_done.map { |each| { on: each.done_on, kind: :settled, row: each, who: each.done_by } },
                  *verdicts.map { |each| { on: each[:on], kind: :visited, row: each, who: each[:visit].seen_by } }]
        events.select { |event| event[:on] }.each_with_index.sort_by { |event, place| [event[:on], place] }.map(&:first)
      end

      # The days on which scions were set; or the one on which it was mended without.
      def repairs(wound)
        day = wound.repaired_on
        return [{ on: day, kind: :repaired, who: wound.repaired_by }] if wound.seated.empty?

        wound.seated.group_by(&:set_on).map do |on, rows|
          { on: on, kind: :set, row: rows, who: (wound.repaired_by if on == day) }
        end
      end

      # Everything that happened to a limb, in order.
      def story(limb)
        events = [{ on: limb.surveyed_on, kind: :surveyed, row: limb },
                  *LimbEvent.of(limb).map { |event| { on: event.happened_on, kind: :happened, row: event } },
                  *limb.grafts.flat_map { |graft| story_of_graft(graft) }]
        # With what it grew from, where nothing is told of itself that day.
        gone = limb.gone_on
        events << { on: gone, kind: :came_off, row: limb } if gone && events.none? { |event| off?(event, gone) }
        order = %i[surveyed happened grafted visited settled tallied lost came_off]
        events.sort_by { |event| [event[:on], order.index(event[:kind]), event[:row].id] }
      end

      def off?(event, on) = event[:kind] == :happened && event[:on] == on && LimbEvent::OFF.include?(event[:row].kind)
    end
  end
end
