# frozen_string_literal: true

module Vestry
  module Records
    # What each living graft needs, kept as reckoned: how it stands, and its open and coming tasks. A
    # change to a graft's facts, to the weather or to the rules marks what is kept as out of date (the
    # database sees to that), and days turn it over; what is out of date is reckoned anew before it is read.
    module Upkeep
      # Grafts older than this are no longer looked after.
      SPAN = 700
      CHUNK = 2000
      # What opens later than this is not kept yet; what is kept is reckoned anew in good time before.
      AHEAD = 75
      HOLDS = 50
      # So many are reckoned while a page waits; more are left to the background.
      AT_ONCE = 600

      module_function

      # @return [Integer] how many are still out of date
      def refresh(orchard, today, most: AT_ONCE)
        begin_again if DB[:upkeep_mark].empty?
        settle_old(orchard, today)
        done = 0
        while done < most && (ids = stale(orchard, today).limit([CHUNK, most - done].min).select_map(:graft_id)).any?
          reckon(orchard, ids, today)
          done += ids.size
          yield done if block_given?
        end
        done < most ? 0 : stale(orchard, today).count
      end

      # After a crash of the database what was kept is gone: all of it is out of date.
      def begin_again
        DB.transaction do
          DB[:upkeep_mark].insert_conflict.insert(whole: true)
          DB[:cares].update(valid_until: "-infinity")
        end
      end

      # How far the reckoning of an orchard in the background is.
      def progress(orchard)
        run = DB[:care_runs].first(orchard_id: orchard.id)
        { state: run.nil? || run[:ended_at] ? "done" : "running", done: run ? run[:done] : 0, lines: run ? run[:total] : 0 }
      end

      def stale(orchard, today) = DB[:cares].where(orchard_id: orchard.id).where(Sequel.|(Sequel[:valid_until] < today, Sequel[:reckoned_on] > today))

      # Those too old to be looked after hold for good; it is asked first, so that they cost nothing.
      def settle_old(orchard, today)
        old = DB[:grafts].where(orchard_id: orchard.id).where(Sequel[:grafted_on] < today - SPAN).select(:id)
        rows = stale(orchard, today).where(graft_id: old)
        return if rows.empty?

        DB[:upkeep].where(orchard_id: orchard.id, graft_id: rows.select(:graft_id)).delete
        rows.update(state: nil, knit_on: nil, reckoned_on: "-infinity", valid_until: "infinity")
      end

      # Reckons some grafts anew, all of them in one go.
      def reckon(orchard, ids, today)
        DB.transaction do
          # It can be reckoned again at any time, so nobody waits for it to be safe on disk.
          DB.run("SET LOCAL synchronous_commit = off")
          facts = Facts.new(orchard, ids, today)
          rows = []
          states = facts.map do |graft, answer|
            rows.concat(lines(graft, answer, today)) if answer
            [graft[:id], answer&.fetch(:state), answer&.fetch(:knit_on), answer ? [answer[:valid_until], today + HOLDS].min : Date.new(9999, 1, 1)]
          end
          DB[:upkeep].where(graft_id: ids).delete
          DB.copy_into(:upkeep, format: :csv, columns: %i[orchard_id graft_id key rule opens_on due_on closes_on person row number tag], data: rows.each_slice(500).map(&:join)) if rows.any?
          rest = ids - states.map(&:first)
          update(states + rest.map { |id| [id, nil, nil, Date.new(9999, 1, 1)] }, today)
        end
      end

      def update(states, today)
        return if states.empty?

        DB.run("UPDATE cares SET state = v.state, knit_on = v.knit_on, reckoned_on = #{DB.literal(today)}, valid_until = v.valid_until " \
               "FROM (VALUES #{values(states)}) AS v(id, state, knit_on, valid_until) WHERE cares.graft_id = v.id")
      end

      def values(states) = states.map { |id, state, knit, valid| "(#{id}, #{DB.literal(state)}::text, #{knit ? DB.literal(knit) : 'NULL'}::date, #{DB.literal(valid)}::date)" }.join(", ")

      # What is still to do, as lines of a table.
      def lines(graft, answer, today)
        answer[:tasks].select { |task| %w[ahead open late].include?(task[:status]) && task[:closes_on] >= today && task[:opens_on] <= today + AHEAD }.map do |task|
          "#{graft[:orchard_id]},#{graft[:id]},#{task[:key]},#{task[:rule]},#{task[:opens_on]},#{task[:due_on]},#{task[:closes_on]},#{quoted(graft[:grafter])},#{quoted(graft[:row])},#{graft[:number]},#{quoted(graft[:tag])}\n"
        end
      end

      def quoted(text) = "\"#{text.to_s.gsub('"', '""')}\""

      # What care says of one graft, with its reasons.
      #
      # @return [Hash, nil]
      def care(graft, today) = Facts.new(graft.orchard, [graft.id], today, whole: true).first&.last

      # The facts of many grafts by few questions, and what care says of each.
      class Facts
        include Enumerable

        COLUMNS = [Sequel[:grafts][:id], Sequel[:grafts][:orchard_id], :grafted_on, :technique, :wrap, :seal, :cover, :sticks, :brace, :grafter, :lost_on, :species, :row, :number, :tag].freeze

        # @param whole [Boolean] those on limbs that are gone or were worked over too
        def initialize(orchard, ids, today, whole: false)
          @orchard = orchard
          @whole = whole
          @ids = ids
          @today = today
          @book = orchard.rulebook
        end

        # @yield [Hash, Hash] a graft, and care's answer; nil where it is not looked after
        def each
          known = Core::Rulebook.shipped.species_names
          grafts.each { |graft| yield graft, (known.include?(graft[:species]) && (@whole || !later.include?(graft[:id])) ? care(graft) : nil) }
        end

        private

        def grafts
          @grafts ||= begin
            rows = DB[:grafts].where(Sequel[:grafts][:id] => @ids).join(:limbs, id: Sequel[:grafts][:limb_id]).join(:trees, id: Sequel[:limbs][:tree_id]).select(*COLUMNS)
            rows = rows.where(Sequel[:grafts][:hidden_at] => nil, Sequel[:trees][:hidden_at] => nil, gone_on: nil).where(Sequel[:grafted_on] <= @today) unless @whole
            rows.all
          end
        end

        # Those that were worked over since.
        def later
          @later ||= DB[:grafts].where(id: @ids).where(DB[Sequel[:grafts].as(:g)].where(Sequel[:g][:limb_id] => Sequel[:grafts][:limb_id], Sequel[:g][:hidden_at] => nil).where(Sequel[:g][:grafted_on] <= @today)
                                 .where(Sequel.|(Sequel[:g][:grafted_on] > Sequel[:grafts][:grafted_on], Sequel.&({ Sequel[:g][:grafted_on] => Sequel[:grafts][:grafted_on] }, Sequel[:g][:id] > Sequel[:grafts][:id]))).select(1).exists).select_map(:id).to_set
        end

        def observations = @observations ||= DB[:observations].where(graft_id: @ids, hidden_at: nil).order(:seen_on, :id).all.group_by { |row| row[:graft_id] }
        def done = @done ||= DB[:tasks_done].where(graft_id: @ids, hidden_at: nil).where(Sequel[:done_on] <= @today).all.group_by { |row| row[:graft_id] }
        def gone = @gone ||= DB[:tallies].where(graft_id: @ids, hidden_at: nil, alive: false).where(Sequel[:tallied_on] <= @today).select_hash(:graft_id, :tallied_on)
        def climate = @climate ||= (@orchard.climates[@today] ||= Core::Tend::Climate.new(SiteWeather.new(@orchard, @today).days(@today - SPAN - 40), @book))

        def care(graft)
          seen = observations.fetch(graft[:id], []).map { |row| CoreValues.visit(row) }
          lost = [graft[:lost_on], gone[graft[:id]]].compact.select { |day| day <= @today }.min
          seen += [{ on: lost, verdict: "failed" }] if lost
          Core::Tend::Care.of({ grafted_on: graft[:grafted_on], method: graft[:technique], species: graft[:species], wrap: graft[:wrap], seal: graft[:seal], cover: graft[:cover], sticks: graft[:sticks],
                                southern: @orchard.southern?, brace: graft[:brace] }, seen, climate,
                              done.fetch(graft[:id], []).map { |row| { key: row[:key], on: row[:done_on], what: row[:what], until: row[:until_on], why: row[:why] } }, @orchard.school, @today, @book)
        end
      end
      private_constant :Facts
    end
  end
end
