# frozen_string_literal: true

module Vestry
  module Core
    module Plan
      # What every run of one plan shares, and one run of it: see Foresee, whose words these are.
      class Futures
        # The same in every season where no past year is given.
        ANY_YEAR = { minutes: Float::INFINITY, gust: 1.0 }.freeze
        DRAWS = 3

        # @param plan [Hash] the fields of Foresee
        def initialize(plan, rulebook)
          @groups, @seasons, @years, @busy = plan.values_at(:groups, :seasons, :years, :busy)
          @tries, @factor = plan[:regraft] ? plan[:regraft].values_at(:tries, :takes_factor) : [0, 1.0]
          @back_at = rulebook.value("reckoning.projection.back_at")
          @old = old_by_season(plan[:old] || { share: 0.0, lifts: [] })
          take_wood(plan[:wood])
          take_stubs(plan[:stubs], plan[:nut] ? rulebook.value("reckoning.projection.nut_later") : 0, rulebook)
        end

        # @param random [Random]
        # @return [Hash] +living+ and +crop+ by season, +regrafts+, +regraft_sticks+, +regraft_minutes+, +put_off+,
        #   +all+ and +back+
        def run(random)
          chances = @groups.map { |group| Chance.beta(group[:mean], group[:strength], random) }
          years = Array.new(@seasons + 1) { year(random) }
          states = @stubs.zip(luck(random)).map { |stub, luck| State.new(stub, luck, stub[:season], 0) }
          course = Course.new(@old.dup, @old.dup, @wood.transform_values { |each| each[:sticks] })
          (@first...@seasons).each { |season| work(season, states, years, chances, course) }
          ended(states, course)
        end

        # A stub in a run: when it is to be worked next, how often it was worked again, when it was first worked, and
        # since when it stands until when.
        State = Struct.new(:stub, :luck, :due, :tried, :first, :since, :upto)

        # What a run comes to.
        class Course
          attr_reader :living, :crop, :wood

          def initialize(living, crop, wood)
            @living = living
            @crop = crop
            @wood = wood
            @regrafts = @sticks = @put_off = 0
            @minutes = 0.0
          end

          # A stub waits for want of days.
          def put_off = @put_off += 1

          # Old wood, until a season.
          def keep(upto, share)
            upto.times do |season|
              @living[season] += share
              @crop[season] += share
            end
          end

          # A graft at its age in a season.
          def add(season, stub, age)
            @living[season] += stub[:living][age]
            @crop[season] += stub[:crop][age]
          end

          # A stub is worked again.
          def again(stub)
            @regrafts += 1
            @sticks += stub[:sticks]
            @minutes += stub[:minutes]
            @wood[stub[:wood]] -= stub[:sticks] if @wood.key?(stub[:wood])
          end

          # @return [Hash] see Futures#run
          def outcome(**more)
            { living: living, crop: crop, regrafts: @regrafts, regraft_sticks: @sticks, regraft_minutes: @minutes,
              put_off: @put_off, **more }
          end
        end
        private_constant :State, :Course, :ANY_YEAR, :DRAWS

        private

        def take_wood(wood)
          @wood = wood.to_h { |each| [each[:id], each] }
          @gives = wood.flat_map { |each| each.values_at(:gives, :a_winter) }.any? { |more| more&.positive? }
        end

        def take_stubs(stubs, later, rulebook)
          @stubs = stubs.each_with_index.map do |stub, place|
            { minutes: 0.0, needs_slip: true, **stub, group: group_of(stub, place), **grown(stub, later, rulebook) }
          end
          @by_id = stubs.each_index.sort_by { |place| stubs[place][:id].to_s }
          @first = [*stubs.map { |stub| stub[:season] }, 0].min
        end

        def group_of(stub, place)
          @groups.index { |group| group[:id] == stub[:group] } or
            raise BadInput.new("stubs[#{place}].group", "one of the groups that are given")
        end

        # What lives and bears of it by its age.
        def grown(stub, later, rulebook)
          bearing = rulebook.value("reckoning.projection.bearing")
          back = Regrowth.call(**stub.slice(:stub_mm, :shoot_mm, :measured), rulebook: rulebook,
                               seasons: @seasons - [stub[:season], 0].min)[:shares]
          living = back.map { |share| share * stub[:share] }
          { living: living,
            crop: living.each_with_index.map { |share, age| share * Projection.at(bearing, age - later) } }
        end

        def old_by_season(old)
          Array.new(@seasons) do |season|
            gone = (old[:lifts] || []).select { |lift| lift[:season] <= season }
            old[:share] - gone.sum(0.0) { |lift| lift[:share] }
          end
        end

        def ended(states, course)
          states.each { |state| stand(state, @seasons, course) }
          course.outcome(all: states.all? { |state| lives?(state) }, back: back(course, states))
        end

        def year(random) = @years.empty? ? ANY_YEAR : @years[random.rand(@years.size)]

        # Drawn by the stubs' ids, so that the order in which a plan works them changes nobody's luck.
        def luck(random)
          drawn = Array.new(@stubs.size)
          @by_id.each { |place| drawn[place] = Array.new(DRAWS * (@tries + 1)) { random.rand } }
          drawn
        end

        # The stubs of one season, in their order.
        def work(season, states, years, chances, course)
          give_wood(season, states, course) if @gives
          left = season.negative? ? Float::INFINITY : years[season][:minutes] - @busy.fetch(season, 0.0)
          states.each do |state|
            next unless state.due == season

            stub = state.stub
            timed = stub[:needs_slip] && season >= 0
            if !wood?(state, course) then state.due += 1
            elsif timed && stub[:minutes] > left
              state.due += 1
              course.put_off
            else
              left -= stub[:minutes] if timed
              set(state, season, years, chances[stub[:group]], course)
            end
          end
        end

        # What stood in the summer before gives wood in the winter, and so do other trees.
        def give_wood(season, states, course)
          @wood.each { |id, each| course.wood[id] += each[:a_winter] || 0 } if season.positive?
          states.each do |state|
            since, upto = state.since, state.upto
            next if since.nil? || since >= season || (upto && upto < season)

            wood = state.stub[:wood]
            course.wood[wood] += @wood[wood][:gives] || 0 if @wood.key?(wood)
          end
        end

        # What is planned has its wood; what is worked again takes what is over.
        def wood?(state, course)
          state.tried.zero? || !@wood.key?(state.stub[:wood]) || course.wood[state.stub[:wood]] >= state.stub[:sticks]
        end

        def set(state, season, years, chance, course)
          stand(state, season, course)
          course.again(state.stub) if state.tried.positive?
          state.first ||= season
          stands = lasts(state, season, years, state.tried.zero? ? chance : chance * @factor)
          state.since, state.upto, state.due = season, stands && season + stands, nil
          return if stands.nil? || state.tried >= @tries

          state.tried += 1
          state.due = season + stands + 1
        end

        # So many seasons it stands before it is lost: none where it fails, nil where it is never.
        def lasts(state, season, years, chance)
          stub, drawn = state.stub, state.luck[DRAWS * state.tried, DRAWS]
          return 0 if drawn[0] >= 1 - (1 - chance)**stub[:sticks] || drawn[1] < stub[:wind][0] * gust(season, years)

          drawn[2] < stub[:wind][1] * gust(season + 1, years) ? 1 : nil
        end

        def gust(season, years) = season.negative? ? 1.0 : years[season][:gust]

        # What stood on a stub until a season, added to what lives and bears: its old wood, or the graft on it.
        def stand(state, season, course)
          since, stub = state.since, state.stub
          upto = [since && state.upto || season, season, @seasons].min
          return stub[:headed] || course.keep(upto, stub[:share]) unless since

          [since, 0].max.upto(upto - 1) { |each| course.add(each, stub, each - since) }
        end

        # At the end of the last season; one whose season is after it is not asked.
        def lives?(state)
          return state.stub[:season] >= @seasons unless state.since

          state.upto.nil? || state.upto >= @seasons
        end

        # From the season on in which the last stub was first worked; never where no graft lives at the end, although
        # the old wood beside it bears what it bore.
        def back(course, states)
          return unless states.any? { |state| state.since && lives?(state) }

          last = states.map { |state| state.first || state.stub[:season] }.push(0).max
          (last...@seasons).find { |season| Near.at_least?(course.crop[season], @back_at * course.living.last) }
        end
      end
    end
  end
end
