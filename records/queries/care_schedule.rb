# frozen_string_literal: true

module Vestry
  module Records
    # What each living graft needs, kept as reckoned: how it stands, and its open and coming tasks. A
    # change to a graft's facts, to the weather or to the rules marks what is kept as out of date (the
    # database sees to that), and days turn it over; what is out of date is reckoned anew before it is read.
    module CareSchedule
      # Grafts older than this are limbs like any other.
      LOOKED_AFTER = 3650
      CHUNK = 2000
      # What opens later than this is not kept yet; what is kept is reckoned anew in good time before.
      AHEAD = 75
      HOLDS = 50
      # So many are reckoned while a page waits; more are left to the background.
      AT_ONCE = 600
      # The tables that it follows from, besides the orchard and the day: those whose triggers mark it, and those that
      # what they change is read from.
      FROM = %w[trees limbs grafts observations tallies tasks_done plans plan_limbs weather_days phenology_seen].freeze
      # So few rows go in one statement with the rest; more are copied.
      FEW = 60
      KEPT = %i[orchard_id graft_id person row number tag key rule opens_on due_on closes_on].freeze

      module_function

      # @return [Integer] how many are still out of date
      def refresh(orchard, today, most: AT_ONCE)
        marked, later, due = stands(orchard, today)
        return 0 if marked && later.nil? && due.nil?

        begin_again unless marked
        turn_back(orchard, today) if later

        settle_old(orchard, today)
        done = 0
        told = {}
        while done < most && (count = reckon_some(orchard, today, [CHUNK, most - done].min, told)).positive?
          done += count
          yield done if block_given?
        end
        done < most ? 0 : stale(orchard, today).count
      end

      # After a crash of the database what was kept is gone, and another release has other rules: all of it is out of
      # date. Asked as the application starts, for while one release takes over from another each would undo the
      # other's. Of two at once the second finds the mark and leaves the rest.
      def begin_again
        DB.transaction do
          marked = Sequel[:care_mark][:release]
          begun = DB[:care_mark].insert_conflict(target: :whole, update: { release: RELEASE },
                                                 update_where: Sequel.|({ marked => nil }, Sequel.~(marked => RELEASE)))
            .returning(:whole).insert(whole: true, release: RELEASE)
          DB[:care_states].update(valid_until: "-infinity") if begun.any?
        end
      end

      # In one question: whether the mark stands, one reckoned for a later day, and one out of date; each
      # along its index.
      def stands(orchard, today)
        DB.select(DB[:care_mark].select(Sequel.as(1, :one)).as(:marked),
                  later(orchard, today).order(Sequel.desc(:reckoned_on)).select(:graft_id).limit(1).as(:later),
                  stale(orchard, today).select(:graft_id).limit(1).as(:stale)).first.values
      end

      # What was reckoned for a later day than is asked for now is out of date too.
      def turn_back(orchard, today)
        free = later(orchard, today).select(:graft_id).for_update.skip_locked
        DB[:care_states].where(graft_id: free).update(valid_until: "-infinity", reckoned_on: nil)
      end
      def later(orchard, today) = DB[:care_states].where(orchard_id: orchard.id).where(Sequel[:reckoned_on] > today)

      # Along the index, the longest out of date first.
      def stale(orchard, today)
        DB[:care_states].where(orchard_id: orchard.id).where(Sequel[:valid_until] < today)
          .order(:valid_until, :graft_id)
      end

      # Those too old to be looked after hold for good; it is asked first, so that they cost nothing.
      def settle_old(orchard, today)
        old = DB[:grafts].where(orchard_id: orchard.id).where(Sequel[:grafted_on] < today - LOOKED_AFTER)
          .select(:id)
        rows = stale(orchard, today).unordered.where(graft_id: old)
        return if rows.empty?

        DB.transaction do
          ids = rows.for_update.skip_locked.select_map(:graft_id)
          DB[:care_tasks].where(orchard_id: orchard.id, graft_id: ids).delete
          DB[:care_states].where(graft_id: ids).update(state: nil, knit_on: nil, reckoned_on: "-infinity",
                                                       valid_until: "infinity")
        end
      end

      # Reckons some of those that are out of date. They are locked before their facts are read: whoever else
      # would reckon them waits and then finds them done, and what changes their facts meanwhile marks them out of
      # date after this is kept, not before. Those whose facts are being changed are left for the next who asks: whoever
      # changes several waits for this, and this for nobody.
      #
      # @return [Integer] how many
      def reckon_some(orchard, today, most, told)
        alone = DB.in_transaction? ? {} : { retry_on: [Sequel::SerializationFailure], num_retries: 5 }
        DB.transaction(**alone) do
          # One process at a time reckons an orchard, so that no two lock its grafts in different orders.
          AdvisoryLock.hold(:care, orchard.id)
          ids = stale(orchard, today).limit(most).for_update.skip_locked.select_map(:graft_id)
          reckon(orchard, ids, today, told: told) if ids.any?
          ids.size
        end
      end

      # Reckons some grafts anew, all of them in one go. They are to be locked.
      #
      # @param told [Hash] answers by the facts they follow from: many grafts of one day, seen on one
      #   walk and found alike, need the same
      def reckon(orchard, ids, today, told: {})
        facts = Facts.new(orchard, ids, today, told: told)
        rows = []
        states = facts.map do |graft, answer|
          rows.concat(lines(graft, answer.to_do)) if answer
          "(#{graft[:id]}, #{answer ? answer.standing : NOTHING})"
        end
        few = rows.size <= FEW
        keep(ids, states + not_looked_after(ids - facts.ids, today), today, few ? rows : [])
        unless few
          DB.copy_into(:care_tasks, format: :csv, columns: KEPT,
                       data: rows.each_slice(500)
                         .map { |some| some.map { |row| "#{row.map { |cell| quoted(cell) }.join(',')}\n" }.join })
        end
      end

      # One that is dated ahead is looked after from its day on.
      def not_looked_after(ids, today)
        ahead = DB[:grafts].where(id: ids).where(Sequel[:grafted_on] > today).select_hash(:id, :grafted_on)
        ids.map do |id|
          "(#{id}, #{ahead[id] ? "NULL::text, NULL::date, #{DB.literal(ahead[id] - 1)}::date" : NOTHING})"
        end
      end

      # In one go to the database, and nobody waits for it to be safe on disk: it can be reckoned again.
      def keep(ids, states, today, rows)
        return if ids.empty?

        add = rows.empty? ? "" :
          "INSERT INTO care_tasks (#{KEPT.map { |column| "\"#{column}\"" }.join(', ')}) " \
          "VALUES #{rows.map { |row| "(#{row.map { |cell| DB.literal(cell) }.join(', ')})" }.join(', ')};"
        DB.run("SET LOCAL synchronous_commit = off; DELETE FROM care_tasks WHERE graft_id IN " \
               "(#{ids.join(', ')}); #{add} UPDATE care_states SET state = v.state, knit_on = v.knit_on, reckoned_on " \
               "= #{DB.literal(today)}, valid_until = v.valid_until " \
               "FROM (VALUES #{states.join(', ')}) AS v(id, state, knit_on, valid_until) WHERE care_states.graft_id " \
               "= v.id")
      end

      # What is still to do, as rows of a table.
      def lines(graft, to_do)
        whose = [graft[:orchard_id], graft[:id], graft[:tended_by] || graft[:grafter], graft[:row], graft[:number],
                 graft[:tag]]
        to_do.map { |rest| whose + rest }
      end

      def quoted(cell)
        cell.is_a?(Integer) ? cell.to_s : "\"#{cell.to_s.include?('"') ? cell.to_s.gsub('"', '""') : cell}\""
      end

      # How a graft that is not looked after stands.
      NOTHING = "NULL::text, NULL::date, '9999-01-01'::date"

      # Care's answer, and what of it is kept.
      class CareAnswer
        attr_reader :answer

        # @param span [Array(Date, Date)] today, and the last day on which it can hold
        def initialize(answer, span)
          @answer = answer
          @today, @until = span
        end

        # Its open and coming tasks, as ends of rows.
        def to_do
          @to_do ||= @answer[:tasks].select do |task|
            %w[ahead open late].include?(task[:status]) && task[:closes_on] >= @today && task[:opens_on] <= @today +
            AHEAD
          end
                                    .map do |task|
                                      task.values_at(:key, :rule, :opens_on, :due_on, :closes_on).map(&:to_s)
                                    end
        end

        def standing
          @standing ||= "#{DB.literal(@answer[:state])}::text, #{DB.literal(@answer[:knit_on])}::date, " \
                        "#{DB.literal([@answer[:valid_until], @until].min)}::date"
        end
      end
      private_constant :CareAnswer

      # What care says of one graft, with its reasons.
      #
      # @return [Hash, nil]
      def care(graft, today) = Facts.new(graft.orchard, [graft.id], today, whole: true).first&.last&.answer

      # The facts of many grafts by few questions, and what care says of each.
      class Facts
        include Enumerable

        COLUMNS = [Sequel[:grafts][:id], Sequel[:grafts][:orchard_id], :limb_id, :grafted_on, :technique, :wrap, :seal,
                   :cover, :sticks, :brace, :cut_mm, :stub_mm, :form, :grafter, Sequel[:grafts][:tended_by], :lost_on,
                   :species, Sequel[:limbs][:tree_id],
                   Sequel[:limbs][:length_mm].as(:limb_mm), :row, :number, :tag].freeze
        # What care follows from, beside visits and what was done.
        ASKED = %i[grafted_on technique species wrap seal cover sticks brace headed head_off filled trained
                   planned_again no_room regraft_until bud_until school].freeze
        SEEN = %i[seen_on buds leaf_stalk callus longest_shoot_mm verdict seal_state wrap_state stock_shoots
                  pests snapped fruit].freeze
        COUNTED = %i[tallied_on alive open_a_mm open_b_mm above_mm sticks_alive].freeze
        DONE = %i[key done_on what until_on why].freeze

        # @param whole [Boolean] those on limbs that are gone or were worked over too
        # @param told [Hash] answers by their facts
        def initialize(orchard, ids, today, whole: false, told: {})
          @orchard = orchard
          @whole = whole
          @ids = ids
          @today = today
          @told = told
          @book = orchard.rulebook
        end

        # @yield [Hash, CareAnswer] a graft, and what care says of it; nil where it is not looked after
        def each
          known = Core::Rulebook.shipped.species_names
          grafts.each do |graft|
            yield graft, (known.include?(graft[:species]) && !graft[:worked_over] ? still_wanted(graft) : nil)
          end
        end

        def ids = grafts.map { |graft| graft[:id] }

        private

        def grafts
          @grafts ||= (@whole ? of_ids : looked_after).all
            .each do |row|
              row.update(school: Tree.school(row[:school], @orchard), trained: row[:form] == "wall-trained",
                         **where_set(row))
            end
        end

        # On a stub, into a limb whose head stays on for now, or into a bare stretch whose head stays.
        def where_set(row)
          heads = Core::Rulebook.shipped.heads?(row[:technique])
          headed = heads && !row[:cut_mm].nil?
          { headed: headed, no_room: headed && !room?(row),
            filled: Core::Graft::GraftKind.filled?(row[:technique], row[:cut_mm]) }
        end

        # Graft#no_room? says of one that it has none.
        def room?(row) = Core::Plan::Recut.room?(row.values_at(:cut_mm, :limb_mm).compact.min, @book)

        def of_ids
          DB[:grafts].where(Sequel[:grafts][:id] => @ids).join(:limbs, id: Sequel[:grafts][:limb_id])
            .join(:trees, id: Sequel[:limbs][:tree_id])
            .left_join(:plans, tree_id: Sequel[:trees][:id], superseded_at: nil)
            .select(*COLUMNS, Sequel[:plans][:school],
                    GraftsOfLimb.head_off(@today, @book.value("reckoning.cuts.snag_most")).as(:head_off))
        end

        # Those alone that are in sight, made by today, on a limb that stands.
        def looked_after
          of_ids.where(Sequel[:grafts][:hidden_at] => nil, Sequel[:trees][:hidden_at] => nil, gone_on: nil)
            .where(Sequel[:grafted_on] <= @today)
            .select_append(GraftsOfLimb.worked_over(@orchard, by: @today).as(:worked_over))
        end

        def observations
          @observations ||= listed(SEEN) do
            DB[:observations].where(graft_id: @ids, hidden_at: nil).order(:seen_on, :id)
          end
        end
        def counts
          @counts ||= listed(COUNTED) do
            DB[:tallies].where(graft_id: @ids, hidden_at: nil).where(Sequel[:tallied_on] <= @today)
              .order(:tallied_on, :id)
          end
        end
        def done
          @done ||= listed(DONE) do
            DB[:tasks_done].where(graft_id: @ids, hidden_at: nil).where(Sequel[:done_on] <= @today).order(:id)
          end
        end

        def listed(columns)
          yield.select(:graft_id, *columns).map([:graft_id, *columns]).each_with_object({}) do |(id, *row), all|
            (all[id] ||= []) << row
          end
        end

        # From the year of the first of them on: those of one year share it.
        def climate
          @climate ||= begin
            first = [grafts.map { |graft| graft[:grafted_on] }.min || @today, @today - LOOKED_AFTER].max
            @orchard.weather(@today).climate(Date.new((first - 40).year, 1, 1))
          end
        end

        # Limbs of which something is decided since, of those on which something looks lost.
        def again
          @again ||= PlanQueries.decided_since_loss(@orchard, grafts.select { |graft| looks_lost?(graft) }
            .map { |graft| graft[:limb_id] })
        end

        # Of those something else stands in whose place: they were followed, or another lives on their stub.
        def instead
          @instead ||= GraftsOfLimb.several(grafts.select { |graft| looks_lost?(graft) }.map { |graft| graft[:id] })
            .select { |graft| graft.followed_by(@today) || graft.living_mate(@today) }.to_set(&:id)
        end

        # Of one that was lost and was followed by another nothing is wanted any more.
        def still_wanted(graft)
          told = care(graft)
          told unless !@whole && told.answer[:state] == "failed" && instead.include?(graft[:id])
        end

        def looks_lost?(graft)
          graft[:lost_on] || observations[graft[:id]]&.any? { |row| row.include?("failed") || row.include?("dead") } ||
            counts[graft[:id]]&.any? { |row| row[COUNTED.index(:alive)] == false }
        end

        def care(graft)
          lost = graft[:lost_on]
          graft.update(what_is_next(graft))
          seen, counted, settled = observations[graft[:id]], counts[graft[:id]], done[graft[:id]]
          @told[[graft.values_at(*ASKED), counted && graft[:stub_mm], lost, seen, counted, settled]] ||=
            CareAnswer.new(reckoned(graft, seen || [], counted || [], settled || []), span)
        end

        # What is decided where it was lost, and until when it could be made again or budded.
        def what_is_next(graft)
          tree, species = graft.values_at(:tree_id, :species)
          at_hand = @orchard.season.at_hand(graft[:grafted_on], @today)
          { planned_again: again.include?(graft[:limb_id]) || instead.include?(graft[:id]),
            regraft_until: last_days.regraft(tree, species, at_hand, technique: graft[:technique]),
            bud_until: last_days.bud(at_hand) }
        end

        # Today, and the last day on which what is reckoned now can hold: with weather kept beyond today, which is
        # not heard yet, tomorrow may be another day.
        def span
          later = DB[:weather_days].where(orchard_id: @orchard.id, forecast: false).where(Sequel[:day] > @today)
          @span ||= [@today, later.empty? ? @today + HOLDS : @today]
        end

        # Read anew where something may have been written since the orchard was: what is reckoned here is stored.
        def last_days
          @last_days ||= (@orchard.reading? ? @orchard.last_days(@today) :
            LastDays.new(@orchard, @today, BarkForecast.new(@orchard, @today)))
            .tap { |days| days.know(grafts.to_h { |graft| graft.values_at(:tree_id, :species) }) }
        end

        def reckoned(graft, seen, counted, settled)
          visits = seen.map { |row| CoreInputs.visit(SEEN.zip(row).to_h) }
          counts = counted.map { |row| %i[on alive open_a_mm open_b_mm above_mm sticks_alive].zip(row).to_h }
          Core::Tend::Care.of({ **graft.slice(*ASKED - %i[technique school]), **place, method: graft[:technique],
                                **Core::Tally::Scaffold.since(graft[:stub_mm], counts, rulebook: @book),
                                lost_on: graft[:lost_on],
                                counts: counts.map { |each| each.slice(:on, :alive) } }, visits, climate,
                              settled.map { |row| %i[key on what until why].zip(row).to_h }, graft[:school], @today,
                              @book)
        end

        def place
          @place ||= { southern: @orchard.southern?, latitude_deg: @orchard.latitude, altitude_m: @orchard.altitude_m }
        end
      end
      private_constant :Facts
    end
  end
end
