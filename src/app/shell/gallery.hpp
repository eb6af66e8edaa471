#pragma once
#include <QListWidget>
#include <QThreadPool>
#include <atomic>

#include "app/desk/tab_order.hpp"
#include "core/base/day.hpp"

namespace awl {

/// The demo builds, each shown on its head. Pictures come in as they are worked out.
class Gallery : public EyeDialog {
  Q_OBJECT

 public:
  Gallery(QWidget* parent, Day today);
  ~Gallery() override;

  /// The id of the build that was chosen.
  QString chosen() const;
  /// True once every picture is there.
  bool isFinished() const { return m_left == 0; }

 signals:
  void pictured(int row, const QImage& picture);

 private:
  QListWidget* m_list;
  QThreadPool m_pool;
  std::shared_ptr<std::atomic<bool>> m_wanted = std::make_shared<std::atomic<bool>>(true);
  int m_left = 0;
};

}  // namespace awl
