# frozen_string_literal: true

require "json"

module Vestry
  module Web
    # The day in the pocket: the pages that are wanted in the orchard without signal, in one answer. Each is made as it
    # would be for whoever asks, and sent as its frame, which many share, and what stands in it.
    class Pocket
      # The stations' own pages, in the order in which they are wanted.
      STATIONS = %w[today graft tend tend/stops tend/nurses slip/walk slip slip/crew repair tally survey plan wood
                    wood/match].freeze
      # So many grafts and rows to count at the most.
      MOST = 40
      # So many trees whose limbs can be surveyed.
      MOST_TREES = 60
      OPENING, CLOSING = '<main id="main" tabindex="-1">', "</main>"
      # What differs from page to page within one frame: its title and when it was made.
      TITLE = %r{<title>.*?</title>}m
      MADE = /data-made="[^"]*"/

      # @param env [Hash] of the request for it
      def initialize(env, orchard, today)
        @env = env
        @orchard = orchard
        @today = today
      end

      # The addresses of its pages.
      #
      # @return [Array<String>]
      def addresses
        (STATIONS + day_pages + due_pages + count_pages + tree_pages).map { |path| "/o/#{@orchard.slug}/#{path}" }.uniq
      end

      # One line of JSON a page, +address+, +frame+, +title+ and +main+; before it +frame+ and +html+ for a frame that
      # is new.
      #
      # @yieldparam line [String]
      def each_line
        frames = {}
        addresses.each do |address|
          html = page(address) or next
          frame, title, main = parts(html)
          number = frames[frame] ||= frames.size.tap { |new| yield JSON.generate(frame: new, html: frame) }
          yield JSON.generate(address: address, frame: number, title: title, main: main)
        end
        labels.each { |address, to| yield JSON.generate(address: address, to: to) }
      end

      private

      # Where the labels of the day's limbs lead, for one that is scanned without signal.
      #
      # @return [Hash{String=>String}] addresses
      def labels
        deed = NextDeed.new(@orchard, @today, @env["vestry.role"])
        limbs = sheet.cards.map(&:limb) + due.grep(Records::Graft).map(&:limb)
        limbs.uniq(&:id).to_h { |limb| ["/t/#{limb.code}", deed.of(limb)] }
      end

      # The next day with stubs, its sheet, its walk and each stub's pages.
      def day_pages
        on = "?on=#{sheet.day.iso8601}"
        ["graft/sheet", "graft/sheet#{on}", "graft/stubs#{on}"] + sheet.cards.first(MOST).flat_map do |card|
          ["", "/cuts", "/different"].map { |page| "graft/limbs/#{card.limb.id}#{page}" }
        end
      end

      def sheet
        @sheet ||= Records::DaySheet.new(@orchard, @today, Headline.new(@orchard, @today).front.next_day || @today)
      end

      # What has something due on it.
      def due
        @due ||= Records::Agenda.new(@orchard, @today).due.map(&:of).uniq { |of| [of.class, of.id] }.first(MOST)
      end

      def due_pages
        due.map do |of|
          of.is_a?(Records::Wound) ? "repair/#{of.id}" : "tend/grafts/#{of.id}"
        end
      end

      def count_pages
        rows = Records::CountRow.all(@orchard, @today)
        rows.select { |row| row[:counted] < row[:grafts] }.first(MOST)
          .map { |row| "tally?#{Rack::Utils.build_query(row: row[:row])}" }
      end

      # The trees of the day as they stand, and for the next limb of each tree that can be surveyed a page of its own.
      def tree_pages
        sheet.cards.map { |card| "survey/trees/#{card.limb.tree_id}" }.uniq.first(MOST) +
          Records::TreeQueries.to_survey(@orchard, MOST_TREES).map { |id| "survey/trees/#{id}/limb" }
      end

      # A page as it is answered; nil for one that is not.
      def page(address)
        path, query = address.split("?", 2)
        status, _, body = OrchardRouter.new.call(asked(path, query.to_s))
        status == 200 ? body.each.to_a.join.force_encoding(Encoding::UTF_8) : nil
      ensure
        body.close if body.respond_to?(:close)
      end

      # A request like the one that came, for another page: what is for once waits for the page that is looked at.
      def asked(path, query)
        once = Helpers::Undoing::ONCE.map { |name| "#{name}=" }
        cookies = @env["HTTP_COOKIE"].to_s.split(/;\s*/).reject { |pair| pair.start_with?(*once) }.join("; ")
        @env.reject { |name, _| name.start_with?("rack.request.", "sinatra.", "HTTP_IF_") }
          .merge("REQUEST_METHOD" => "GET", "SCRIPT_NAME" => "", "PATH_INFO" => path, "QUERY_STRING" => query,
                 "REQUEST_URI" => query.empty? ? path : "#{path}?#{query}", "HTTP_COOKIE" => cookies)
      end

      def parts(html)
        before, rest = html.split(OPENING, 2)
        main, _, after = rest.rpartition(CLOSING)
        frame = "#{before.sub(TITLE, '<title></title>').sub(MADE, 'data-made=""')}#{OPENING}#{CLOSING}#{after}"
        [frame, before[TITLE].delete_prefix("<title>").delete_suffix("</title>"), main]
      end
    end
  end
end
