# frozen_string_literal: true

# What the page in the browser says of itself, and a pointer that pulls over it.
module OnScreen
  def now(words) = page.evaluate_script(words)
  def box(css) = now("document.querySelector(#{css.to_json}).getBoundingClientRect().toJSON()")

  # The middle of the first thing a selector names, in pixels.
  def middle(css) = box(css).then { |b| [b["left"] + b["width"] / 2, b["top"] + b["height"] / 2] }

  # The permission that a person gives when the browser asks: sensors, geolocation.
  def permit(*names)
    browser = page.driver.browser
    info = browser.page.command("Target.getTargetInfo")["targetInfo"]
    browser.command("Browser.grantPermissions", permissions: names, browserContextId: info["browserContextId"])
  end

  # Presses at the first place and pulls on to the others.
  def pull(from, *places, steps: 6)
    mouse = page.driver.browser.mouse
    mouse.move(x: from[0], y: from[1])
    mouse.down
    places.each { |x, y| mouse.move(x: x, y: y, steps: steps) }
    mouse.up
  end
end

RSpec.configure { |config| config.include OnScreen, type: :feature }
