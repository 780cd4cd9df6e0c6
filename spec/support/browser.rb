# frozen_string_literal: true

require "capybara/rspec"
require "capybara/cuprite"

# What keeps pages for where there is no signal fetches the day's pages behind each page that is opened. Only specs of
# that have it; any other would wait for a server that is busy with pages nobody looks at.
{ chromium: ["#{__dir__}/no_worker.js"], chromium_that_keeps: [] }.each do |name, scripts|
  Capybara.register_driver(name) do |app|
    browser = %w[chromium-headless-shell chromium].map { |program| "/usr/bin/#{program}" }
      .find { |path| File.executable?(path) }
    flags = %w[no-sandbox disable-gpu disable-quic no-first-run disable-background-networking disable-component-update
               disable-sync]
    Capybara::Cuprite::Driver.new(app, window_size: [1280, 800], process_timeout: 30, timeout: 60,
                                  browser_path: browser, js_errors: true, extensions: scripts.dup,
                                  browser_options: flags.to_h { |flag| [flag, nil] })
  end
end

# On a phone the stations lie along the bottom: what is to be pressed is brought clear of them first, as a thumb does.
# And it is pressed when it has come to rest: what a page still fetches may push it aside under the pointer.
module ClearOfTheBar
  LOOKS = 60
  PLACE = "(({ x, y }) => `${x} ${y} ${document.fonts.status}`)(this.getBoundingClientRect())"
  BRING = "this.closest('nav') || innerWidth > 860 || this.scrollIntoView({ block: 'center', inline: 'nearest' })"

  def click(keys = [], **options)
    node.evaluate(BRING)
    until_at_rest
    super
  end

  private

  # Twice in the same place with nothing on its way and its type there, or looked at often enough.
  def until_at_rest
    before = nil
    LOOKS.times do
      place = node.evaluate(PLACE)
      return if place == before && place.end_with?("loaded") && driver.browser.network.pending_connections.zero?

      before = place
    end
  end
end
Capybara::Cuprite::Node.prepend(ClearOfTheBar)

# A window is of its new size when its page says so: one that is opened at once would else be laid out for the old.
module OfItsSize
  LOOKS = 200
  DESK = [1280, 800].freeze

  def resize_window_to(handle, *size)
    super
    @size = size
    LOOKS.times { break if evaluate_script("innerWidth") == size.first }
  end

  # Whatever size an example before this one left it at.
  def at_a_desk! = (@size || DESK) == DESK || resize_window_to(current_window_handle, *DESK)
end
Capybara::Cuprite::Driver.prepend(OfItsSize)

# What was pressed has been answered before another address is typed: a form that is sent in place would else be lost.
module AnsweredFirst
  SECONDS = 5

  def visit(url)
    browser.network.wait_for_idle(duration: 0.01, timeout: SECONDS)
    super
  end
end
Capybara::Cuprite::Driver.prepend(AnsweredFirst)

# A page replaced while its words were read, at the very end of the time to wait on a busy machine, is read again.
module ReadAgain
  def synchronize(...)
    again ||= false
    super
  rescue Capybara::Cuprite::ObsoleteNode
    raise if again || session.synchronized

    again = true
    retry
  end
end
Capybara::Node::Document.prepend(ReadAgain)

RSpec.configure do |config|
  config.define_derived_metadata(file_path: %r{/spec/browser/}) { |metadata| metadata[:type] = :feature }
  config.before(:each, type: :feature) do |example|
    Capybara.app ||= Vestry::Web::Stack.build
    Capybara.server = :puma, { Silent: true }
    Capybara.current_driver = example.metadata[:keeps_pages] ? :chromium_that_keeps : :chromium
    Capybara.default_max_wait_time = 30
    page.driver.at_a_desk!
  end
  config.after(:each, type: :feature) { Capybara.use_default_driver }
end
