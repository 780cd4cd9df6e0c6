# frozen_string_literal: true

# What the page in the browser says of itself, and a pointer that pulls over it.
module OnScreen
  def now(words) = page.evaluate_script(words)
  def box(css) = now("document.querySelector(#{css.to_json}).getBoundingClientRect().toJSON()")

  # The middle of the first thing a selector names, in pixels.
  def middle(css) = box(css).then { |b| [b["left"] + b["width"] / 2, b["top"] + b["height"] / 2] }

  # Letters of the page's drawings that are smaller than they may be, in pixels as they are seen, or cut off at an edge
  # of their drawing: a few.
  def poor_letters(least:)
    now(<<~JS)
      [...document.querySelectorAll("main svg text")].filter((text) => text.textContent.trim() &&
          text.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && text.getBoundingClientRect().width)
        .map((text) => {
          let drawing = text.ownerSVGElement;
          while (drawing.ownerSVGElement) drawing = drawing.ownerSVGElement;
          const { a, b } = text.getScreenCTM();
          const size = parseFloat(getComputedStyle(text).fontSize) * Math.hypot(a, b);
          const [at, within] = [text, drawing].map((each) => each.getBoundingClientRect());
          const spare = at.height / 4;
          const cut = getComputedStyle(drawing).overflow !== "visible" && (at.left < within.left - 1 ||
            at.right > within.right + 1 || at.top < within.top - spare || at.bottom > within.bottom + spare);
          return [text.textContent.trim(), size, cut];
        }).filter(([, size, cut]) => size < #{least} - 0.1 || cut)
        .map(([words, size, cut]) => `${words} ${size.toFixed(1)}${cut ? " cut off" : ""}`).slice(0, 4)
    JS
  end

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
